import { describe, expect, it } from "vitest";
import { mayDo, nameAsShown, nameKey, PHRASE, phraseAsCompared, ROLES } from "./roles";

describe("roles", () => {
  it("each may do what those before it may, and no more", () => {
    expect(ROLES.map((role) => ROLES.filter((needed) => mayDo(role, needed)))).toEqual([["look"], ["look", "work"], ["look", "work", "keep"]]);
  });
});

describe("phrases and names as they are compared", () => {
  it("blanks at the ends and doubled ones say nothing; letters built of two are the one that looks the same", () => {
    expect(phraseAsCompared("  lantern   barge\ton the tide ")).toBe("lantern barge on the tide");
    expect(phraseAsCompared("cafe\u0301")).toBe("caf\u00e9");
    // Case says something in a phrase, nothing in a name.
    expect(phraseAsCompared("Lantern")).not.toBe(phraseAsCompared("lantern"));
    expect(nameAsShown("  Glue   hand ")).toBe("Glue hand");
    expect(nameKey(" GLUE  hand")).toBe(nameKey("Glue hand"));
    expect(nameKey("Cafe\u0301")).toBe(nameKey("CAF\u00c9"));
    expect(nameAsShown("a\u0301")).toBe("\u00e1");
    expect(PHRASE.least).toBeLessThan(PHRASE.most);
  });
});
