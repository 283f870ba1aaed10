import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { automaticName, DAILY_BACKUPS, outlived, WEEKLY_BACKUPS } from "./retention";

const dayName = (offset: number) => automaticName(new Date(Date.UTC(2026, 10, 25) - offset * 86_400_000).toISOString().slice(0, 10));

describe("which automatic backups are kept", () => {
  it("sixty days in a row leave seven days and four weeks, the newest of each week (Mondays begin them)", () => {
    const names = Array.from({ length: 60 }, (_, i) => dayName(i));
    const gone = new Set(outlived(names));
    const saved = names.filter((name) => !gone.has(name));
    expect(saved.slice(0, 7)).toEqual(names.slice(0, 7));
    // 25 November 2026 is a Wednesday; 19 November is the seventh day. Older weeks end on Sundays 15, 8 and 1 November; of the week begun, the 18th.
    expect(saved.slice(7)).toEqual(["auto-2026-11-18.zip", "auto-2026-11-15.zip", "auto-2026-11-08.zip", "auto-2026-11-01.zip"]);
  });

  it("never more than eleven, always the newest, nothing made by hand; and asked again it names nothing more", () => {
    fc.assert(
      fc.property(fc.uniqueArray(fc.integer({ min: 0, max: 400 }), { maxLength: 80 }), (offsets) => {
        const names = [...offsets.map(dayName), "mine.zip", "auto-mine.zip", "before-restore-2026.zip"];
        const gone = new Set(outlived(names));
        const left = names.filter((name) => !gone.has(name));
        expect(left.filter((name) => /^auto-2/.test(name)).length).toBeLessThanOrEqual(DAILY_BACKUPS + WEEKLY_BACKUPS);
        for (const mine of ["mine.zip", "auto-mine.zip", "before-restore-2026.zip"]) expect(left).toContain(mine);
        if (offsets.length > 0) expect(left).toContain(dayName(Math.min(...offsets)));
        expect(outlived(left)).toEqual([]);
      }),
    );
  });
});
