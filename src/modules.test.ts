import { describe, expect, it } from "vitest";
import { mayTouch, moduleOf, sharedNames, wrongArrows } from "../scripts/modules";

describe("modules and arrows", () => {
  it("knows the module of a file, the innermost first", () => {
    expect(moduleOf("core/physics/cut/lag.ts")).toBe("core/physics/cut");
    expect(moduleOf("ui/features/desk/choosers/Chooser.tsx")).toBe("ui/features/desk");
    expect(moduleOf("core/relations.ts")).toBe("core");
    expect(moduleOf("proxy.ts")).toBe("");
    expect(moduleOf("core/attic/old.ts")).toBeNull();
  });

  it("lets arrows run down, and none up or across", () => {
    expect(mayTouch("core/calibration", "core/log")).toBe(true);
    expect(mayTouch("core/log", "core/calibration")).toBe(false);
    expect(mayTouch("core/cutters/design", "core/drawer")).toBe(false);
    expect(mayTouch("core/drawer", "core/cutters/design")).toBe(true);
  });

  it("notices a wrong arrow, a type's too, a package and Node where they may not be, a circle, and a file in no module", () => {
    const clean = { "core/kernel/errors.ts": "export {}", "core/numerics/root.ts": 'import { x } from "../kernel/errors";' };
    expect(wrongArrows(clean)).toEqual([]);
    const found = (files: Record<string, string>) => wrongArrows({ ...clean, ...files }).join("\n");
    expect(found({ "core/kernel/a.ts": 'import type { R } from "@/core/numerics/root";' })).toMatch(/core\/kernel may not touch core\/numerics/);
    expect(found({ "core/log/a.ts": 'const lazy = () => import("../calibration/fit");', "core/calibration/fit.ts": "" })).toMatch(/core\/log may not touch/);
    expect(found({ "workers/a.ts": 'new Worker(new URL("../ui/kit/b.ts", import.meta.url))', "ui/kit/b.ts": "" })).toMatch(/workers may not touch ui\/kit/);
    expect(found({ "core/log/a.ts": 'import React from "react";' })).toMatch(/package react/);
    expect(found({ "core/log/a.ts": 'import fs from "node:fs";' })).toMatch(/Node's node:fs/);
    expect(found({ "core/log/a.ts": 'import "./b";', "core/log/b.ts": 'import "./a";' })).toMatch(
      /circle of imports: core\/log\/a.ts -> core\/log\/b.ts -> core\/log\/a.ts/,
    );
    expect(found({ "core/attic/a.ts": "" })).toMatch(/is in no module/);
  });

  it("notices a name that two files export, but not one of a page", () => {
    const of = (name: string) => `export interface ${name} {}\n`;
    expect(sharedNames({ "core/a.ts": of("Plan"), "core/b.ts": of("Plans"), "app/x/page.tsx": of("Plan") })).toEqual([]);
    expect(sharedNames({ "core/a.ts": of("Plan"), "ui/b.ts": "export const Plan = 1;\n" })).toEqual(["Plan is exported by core/a.ts and ui/b.ts"]);
  });
});
