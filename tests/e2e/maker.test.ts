import { readFileSync } from "node:fs";
import { describe, expect, it } from "vitest";
import { figures, listens, saved, until, verdict } from "../helpers/browser";
import { anyWorkshop } from "../helpers/workshop";

const { server, watched } = anyWorkshop({ seed: true });

describe("a maker's first day", () => {
  it("from the demo to a cutter of one's own, cured, tuned, kept over a restart, taken away and brought back", async () => {
    const watch = await watched({ acceptDownloads: true });
    const page = await watch.page("/");

    // The demo is open: five cutters, each with its verdict in words.
    await page.waitForSelector("[data-cutter]");
    expect(await page.locator("[data-cutter]").count()).toBe(5);
    expect((await page.locator("[data-cutter] [data-verdict]").allInnerTexts()).sort()).toEqual(["Clean", "Clean", "Drags", "Smokes", "Supply can't"]);

    // A cutter from scratch.
    await page.getByRole("button", { name: "New cutter" }).click();
    await page.getByRole("menuitem", { name: /Hand bow/ }).click();
    await page.waitForURL(/\/cutters\/[0-9a-f-]{36}$/);
    await page.getByLabel("Cutter's name").fill("Bandstand bow");
    await page.locator('[data-part="foam"]').click();
    await page.getByRole("button", { name: /Extruded polystyrene sheet/ }).click();
    await page.getByRole("textbox", { name: "Density" }).fill("2 lb/ft3");
    await page.keyboard.press("Escape");
    await page.locator('[data-part="supply"]').click();
    await page.getByRole("button", { name: /wall brick/ }).click();
    await page.keyboard.press("Escape");
    await page.locator('[data-part="wire"]').click();
    await page.getByLabel("Diameter or gauge").fill("20 awg");
    await page.keyboard.press("Escape");

    // 12 V over a short thick wire asks more than the plate gives.
    await page.waitForSelector('[data-caution="overload"]');
    expect(await page.locator('[data-caution="overload"]').innerText()).toContain("rated 5.00 A");
    expect(await page.locator('[data-caution="under-wire"]').innerText()).toContain("at least 2.40 ohm");
    expect(await verdict(page)).toBe("overload");

    // The cure says what it changes, and does.
    const cure = page.locator(".cures button:enabled", { hasText: /gauges? thinner/ });
    await cure.click();
    await until(
      () => verdict(page),
      (v) => v !== "overload",
      "cured",
    );
    expect(await page.locator('[data-caution="overload"]').count()).toBe(0);

    // What is then left has its own cures.
    for (let i = 0; i < 3 && (await verdict(page)) !== "clean"; i++) {
      const now = await verdict(page);
      await page.locator(".cures button:enabled").first().click();
      await until(
        () => verdict(page),
        (v) => v !== now,
        "next cure",
      );
    }
    expect(await verdict(page)).toBe("clean");

    // Tune by keyboard: faster until it drags, then back.
    const point = page.getByRole("slider", { name: /Working point/ });
    await point.focus();
    const before = await point.getAttribute("aria-valuetext");
    for (let i = 0; i < 12 && (await verdict(page)) !== "drags"; i++) await page.keyboard.press("Shift+ArrowRight");
    expect(await verdict(page)).toBe("drags");
    expect(await point.getAttribute("aria-valuetext")).not.toBe(before);
    await page.locator(".cures button:enabled", { hasText: "slower" }).click();
    await until(
      () => verdict(page),
      (v) => v === "clean",
      "clean again",
    );
    await point.focus();
    const heat = () => page.locator('[data-part="control"]').innerText();
    const lower = await heat();
    await page.keyboard.press("ArrowUp");
    // What is read comes a tenth of a second after the hand.
    const raised = await until(heat, (text) => text !== lower, "raised");
    await page.keyboard.press("Control+z");
    await until(heat, (text) => text !== raised, "undone");
    await page.keyboard.press("Control+y");
    await until(heat, (text) => text === raised, "done again");

    // Saved automatically: a reload and a restart of the server find the same figures.
    await saved(page);
    const mine = await figures(page);
    const sentence = await page.locator(".sentence").innerText();
    await page.reload();
    expect(await figures(page)).toEqual(mine);
    await listens(page);
    await server.stop();
    await server.start();
    await page.reload();
    expect(await figures(page)).toEqual(mine);
    // What a page asked of the server while it was down, or over a connection that went down with it.
    watch.forgive(/net::ERR_(CONNECTION_REFUSED|CONNECTION_RESET|SOCKET_NOT_CONNECTED|EMPTY_RESPONSE|INCOMPLETE_CHUNKED_ENCODING)/);
    expect(await page.locator(".sentence").innerText()).toBe(sentence);

    // Take it away, delete it, bring it back from the file: the same figures.
    const download = page.waitForEvent("download");
    await page.getByRole("link", { name: "Export" }).click();
    const file = await (await download).path();
    expect((await download).suggestedFilename()).toBe("bandstand-bow.upwind.json");
    expect(JSON.parse(readFileSync(file, "utf8"))).toMatchObject({ format: "upwind-rod/design", version: 3, name: "Bandstand bow" });
    await page.getByRole("link", { name: "Cutters", exact: true }).click();
    await page.getByRole("button", { name: "Archive Bandstand bow" }).click();
    await until(
      () => page.locator('[data-cutter="Bandstand bow"]').count(),
      (n) => n === 0,
      "archived",
    );
    await page.getByLabel("Cutter file").setInputFiles(file);
    await page.locator('[data-cutter="Bandstand bow"] a').first().click();
    await page.waitForSelector(".sentence");
    expect(await figures(page)).toEqual(mine);
    await watch.end();
  });

  it("rename, copy, delete with undo; a bad file is refused by path and changes nothing", async () => {
    const watch = await watched();
    const page = await watch.page("/cutters");
    const names = () => page.locator("[data-cutter]").evaluateAll((rows) => rows.map((row) => row.getAttribute("data-cutter")).sort());
    await page.getByRole("button", { name: "Copy Thimble" }).click();
    await page.waitForSelector('[data-cutter="Thimble, copy"]');
    await page.getByRole("button", { name: "Rename Thimble, copy" }).click();
    await page.getByLabel("New name").fill("Thumb");
    await page.keyboard.press("Enter");
    await page.waitForSelector('[data-cutter="Thumb"]');
    const all = await names();
    await page.getByRole("button", { name: "Archive Thumb" }).click();
    await until(names, (now) => !now.includes("Thumb"), "gone");
    await page.getByRole("button", { name: "Undo" }).click();
    await until(names, (now) => JSON.stringify(now) === JSON.stringify(all), "back");

    const bad = { format: "upwind-rod/design", version: 3, name: "Bad", kind: "bow", job: { foam: { family: "pvc", density_kg_m3: 30 } } };
    await page.getByLabel("Cutter file").setInputFiles({ name: "bad.json", mimeType: "application/json", buffer: Buffer.from(JSON.stringify(bad)) });
    expect(await page.locator(".MuiAlert-root").innerText()).toMatch(/job\.foam\.family .*PVC foam must never be cut with a hot wire/);
    await page
      .getByLabel("Cutter file")
      .setInputFiles({ name: "new.json", mimeType: "application/json", buffer: Buffer.from('{"format":"upwind-rod/design","version":9}') });
    await until(
      () => page.locator(".MuiAlert-root").innerText(),
      (text) => /newer Upwind Rod/.test(text),
      "newer refused kindly",
    );
    expect(await names()).toEqual(all);
    await watch.end();
  });
});

describe("the desk", () => {
  it("drags the working point by mouse and by touch, within the window, and the map comes from a worker", async () => {
    const watch = await watched({ hasTouch: true });
    const page = await watch.page("/demo/gatepost");
    await page.waitForSelector('[data-region="clean"]');
    await until(
      async () => page.workers().length,
      (workers) => workers === 1,
      "one worker",
    );
    const box = await page.getByTestId("cutting-window").boundingBox();
    if (!box) throw new Error("no window");
    const place = (x: number, y: number) => [box.x + box.width * x, box.y + box.height * y] as const;
    expect(await verdict(page)).toBe("smokes");
    await page.mouse.move(...place(0.2, 0.4));
    await page.mouse.down();
    await page.mouse.move(...place(0.6, 0.6), { steps: 8 });
    await page.mouse.up();
    // Words come in steps after the hand.
    await until(
      () => verdict(page),
      (v) => v === "clean",
      "dragged",
    );
    await page.mouse.move(...place(0.9, 0.95));
    expect(await verdict(page)).toBe("clean");
    await page.touchscreen.tap(...place(0.85, 0.7));
    await until(
      () => verdict(page),
      (v) => v === "drags",
      "touched",
    );
    // The dashed border is the end of the knob: the point cannot be dragged past it.
    await page.mouse.move(...place(0.5, 0.5));
    await page.mouse.down();
    await page.mouse.move(box.x + box.width * 0.5, box.y - 300, { steps: 4 });
    await page.mouse.up();
    await until(
      () => page.locator(".sentence").innerText(),
      (words) => words.includes("PWM at 100 %"),
      "the knob at its end",
    );
    await watch.end();
  });

  it("takes typed units, names a bad figure next to its field and keeps the old value", async () => {
    const watch = await watched();
    const page = await watch.page("/demo/long-tom");
    await page.keyboard.press("v");
    const field = page.getByLabel("Feed", { exact: true }).first();
    await field.fill("4 s/in");
    expect(await page.locator('[data-part="feed"]').innerText()).toContain("6.3 mm/s");
    await field.fill("900 mm/s");
    await page.getByText("feed must be from 0.05 mm/s to 500 mm/s").waitFor();
    expect(await page.locator('[data-part="feed"]').innerText()).toContain("6.3 mm/s");
    await page.keyboard.press("Escape");
    await page.getByRole("button", { name: /: units,/ }).click();
    expect(await page.locator('[data-part="feed"]').innerText()).toContain("4 s/in");
    await page.reload();
    expect(await page.locator('[data-figure="tension"]').innerText()).toMatch(/14\.6 lbf/);
    await watch.end();
  });

  it("refuses foams and supplies that must never be used, with the reason, where they are chosen", async () => {
    const watch = await watched();
    const page = await watch.page("/demo/long-tom");
    const sentence = await page.locator(".sentence").innerText();
    await page.keyboard.press("f");
    await page.getByRole("button", { name: /Polyurethane.*refused/ }).click();
    expect(await page.getByRole("alert").innerText()).toContain("hydrogen cyanide");
    await page.keyboard.press("Escape");
    await page.keyboard.press("s");
    await page.getByRole("button", { name: /Rewound oven transformer.*refused/ }).click();
    expect(await page.getByRole("alert").innerText()).toContain("kills");
    await page.getByRole("textbox", { name: "Volts knob" }).fill("230");
    await page.getByText("voltage must be from 0.1 V to 30 V").waitFor();
    await page.keyboard.press("Escape");
    expect(await page.locator(".sentence").innerText()).toBe(sentence);
    await watch.end();
  });

  it("takes a transformer with its dimmer, and a battery, each with the controls that fit it", async () => {
    const watch = await watched();
    const page = await watch.page("/demo/gatepost");
    await page.keyboard.press("s");
    await page.getByRole("button", { name: /24 V AC/ }).click();
    await page.keyboard.press("Escape");
    // The old PWM control cannot chop alternating current: it went, and a dimmer is offered.
    expect(await page.locator('[data-part="control"]').innerText()).toContain("no control");
    await page.waitForSelector('[data-caution="mains-side"]');
    await page.keyboard.press("c");
    await page.getByRole("button", { name: /^Dimmer/ }).click();
    expect(await page.getByText(/Not on this supply: PWM control/).count()).toBe(1);
    await page.keyboard.press("Escape");
    const knob = page.getByRole("slider", { name: "Dimmer, delay angle" });
    await knob.focus();
    const hot = await page.locator('[data-figure="volts-amps"]').innerText();
    for (let i = 0; i < 4; i++) await page.keyboard.press("ArrowRight");
    expect(Number.parseFloat(await page.locator('[data-figure="volts-amps"]').innerText())).toBeLessThan(Number.parseFloat(hot));
    await page.keyboard.press("Tab");
    await page.keyboard.press("s");
    await page.getByRole("button", { name: /40 Ah/ }).click();
    await page.keyboard.press("Escape");
    expect(await page.locator(".sentence").innerText()).toContain("6-cell lead-acid battery of 40 Ah");
    await page.waitForSelector('[data-caution="battery-fuse"]');
    await watch.end();
  });

  it("finds set-ups for the job, says what each school of wire costs, and puts one on the desk as one undo", async () => {
    const watch = await watched();
    const page = await watch.page("/demo/gatepost");
    expect(await verdict(page)).toBe("smokes");
    const before = await page.locator(".sentence").innerText();
    await page.keyboard.press("g");
    const dialog = page.getByRole("dialog", { name: /^Set-ups for EPS 15/ });
    await dialog.getByRole("button", { name: "Put on the desk" }).first().waitFor();
    await dialog.getByRole("button", { name: /^nickel superalloy/ }).click();
    await dialog.locator(".setups strong", { hasText: "superalloy" }).first().waitFor();
    await dialog.getByRole("button", { name: /^keep 12 V 8 A brick/ }).click();
    await until(
      async () => (await dialog.locator(".setups > li").allInnerTexts()).every((row) => row.includes("12 V 8 A brick")),
      (all) => all,
      "only the held supply",
    );
    await dialog.getByRole("button", { name: "Put on the desk" }).first().click();
    await until(
      () => verdict(page),
      (v) => v === "clean",
      "clean",
    );
    await page.getByRole("button", { name: "Undo" }).click();
    expect(await page.locator(".sentence").innerText()).toBe(before);
    await watch.end();
  });

  it("draws the knob's whole range, the borders' bands and the figures in time", async () => {
    const watch = await watched();
    const page = await watch.page("/demo/gatepost");
    await page.getByRole("img", { name: /heat in the cut over its whole range/ }).waitFor();
    await page.locator("path[data-band]").first().waitFor({ state: "attached" });
    expect(await page.locator("path[data-band]").count()).toBe(2);
    const band = () => page.locator('path[data-band="from"]').getAttribute("d");
    const guessed = await band();
    await page.keyboard.press("f");
    await page.getByRole("button", { name: /this block was weighed/ }).click();
    await page.keyboard.press("Escape");
    await until(band, (now) => now !== guessed, "narrower bands");
    expect(await page.locator('[data-figure="warm-up"]').innerText()).toMatch(/^\d+ s$/);
    await page.getByRole("button", { name: "Why this entry?" }).click();
    await page.getByText(/what it stored cuts that far/).waitFor();
    await page.keyboard.press("Escape");
    await watch.end();
  });

  it("answers why, and the rod's parts open where they are set", async () => {
    const watch = await watched();
    const page = await watch.page("/demo/long-tom");
    await page.getByRole("button", { name: "Why this kerf?" }).click();
    await page.getByText("Trans. ASME 68 (1946)").waitFor();
    await page.keyboard.press("Escape");
    await page.getByRole("button", { name: /^Tension: / }).focus();
    await page.keyboard.press("Enter");
    await page.getByRole("dialog", { name: "What pulls it straight?" }).waitFor();
    await watch.end();
  });

  it("fits: no sideways scrolling at 768 px, with long names", async () => {
    const watch = await watched({ viewport: { width: 768, height: 1024 } });
    const page = await watch.page("/demo/marionette");
    await page.getByLabel("Cutter's name").fill("The second-best motorised frame of the bandstand-and-buoys working party, 2nd ed");
    const overflow = () => page.evaluate(() => document.documentElement.scrollWidth - document.documentElement.clientWidth);
    expect(await overflow()).toBe(0);
    await page.getByRole("button", { name: "Keep a copy" }).click();
    await page.waitForURL(/\/cutters\/[0-9a-f-]{36}$/);
    await page.goto(`${server.url}/cutters`);
    await page.waitForSelector("[data-cutter]");
    expect(await overflow()).toBe(0);
    await watch.end();
  });
});
