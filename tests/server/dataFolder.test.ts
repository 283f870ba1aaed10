import { spawnSync } from "node:child_process";
import { mkdirSync, mkdtempSync, rmSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import path from "node:path";
import { afterEach, describe, expect, it } from "vitest";
import { lockDataFolder } from "@/server/db/dataFolder";

const folders: string[] = [];
const fresh = () => {
  const folder = mkdtempSync(path.join(tmpdir(), "upwind-lock-"));
  folders.push(folder);
  return folder;
};
afterEach(() => {
  for (const folder of folders.splice(0)) rmSync(folder, { recursive: true, force: true });
});

describe("the data folder's lock", () => {
  it("keeps a second opener out in plain words, and lets it in once released", async () => {
    const folder = fresh();
    const release = await lockDataFolder(folder);
    await expect(lockDataFolder(folder)).rejects.toMatchObject({
      code: "data-folder-in-use",
      message: expect.stringContaining("already open in another Upwind Rod"),
    });
    await release();
    await (await lockDataFolder(folder))();
  });

  it("takes over at once from a process that is gone", async () => {
    const folder = fresh();
    const dead = spawnSync(process.execPath, ["-e", ""]).pid;
    mkdirSync(path.join(folder, "in-use.lock"));
    writeFileSync(path.join(folder, "in-use.pid"), String(dead));
    await (await lockDataFolder(folder))();
  });
});
