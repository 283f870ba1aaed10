/** Hands a text to the browser as a file. */
export function downloadText(name: string, type: string, text: string): void {
  const url = URL.createObjectURL(new Blob([text], { type }));
  const link = document.createElement("a");
  link.href = url;
  link.download = name;
  link.click();
  // Revoked once the browser has taken it up; a second is plenty for a few kilobytes.
  setTimeout(() => URL.revokeObjectURL(url), 1000);
}
