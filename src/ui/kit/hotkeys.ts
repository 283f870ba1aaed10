/** Single keys work from sliders too, which the hook would otherwise take for form fields; in text fields they stay letters. */
export const HOTKEYS = { preventDefault: true, enableOnFormTags: ["slider"] as const };
