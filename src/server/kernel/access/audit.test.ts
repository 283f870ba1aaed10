import { describe, expect, it } from "vitest";
import { auditEntry } from "./audit";

const ID = "7f1c1f5e-0000-4000-8000-000000000001";
const OTHER = "7f1c1f5e-0000-4000-8000-000000000002";

describe("what a change was, in words", () => {
  it.each([
    ["POST", "/api/cutters", "made a cutter", null],
    ["PUT", `/api/plans/${ID}`, "changed a plan", ID],
    ["DELETE", `/api/rigs/${ID}`, "archived a rig", ID],
    ["POST", `/api/cutters/${ID}/restore`, "brought back a cutter", ID],
    ["POST", `/api/cutters/${ID}/duplicate`, "copied a cutter", ID],
    ["POST", "/api/plans/import", "took in a plan from a file", null],
    ["POST", `/api/cutters/${ID}/log`, "wrote into the log of", ID],
    ["PUT", `/api/cutters/${ID}/log/${OTHER}`, "put right an entry in the log of", ID],
    ["DELETE", `/api/cutters/${ID}/log/${OTHER}`, "struck an entry out of the log of", ID],
    ["POST", `/api/cutters/${ID}/log/import`, "took entries into the log of", ID],
    ["POST", `/api/cutters/${ID}/photos`, "added a picture to the log of", ID],
    ["DELETE", `/api/drawer/${ID}`, "archived a thing in the drawer", ID],
    ["POST", "/api/backups/restore", "put a backup back", null],
    ["POST", "/api/backups", "made a backup", null],
    ["POST", "/api/run", "began a run", null],
  ])("%s %s: %s", (method, address, did, on) => expect(auditEntry(method, address)).toEqual({ did, on }));

  it("a look at a file, a pulse of a run, and who may come in are no auditEntries of the work", () => {
    for (const address of [`/api/cutters/${ID}/log/preview`, "/api/drawer/preview", "/api/run/pulse", "/api/access/members", "/api/backups/preview"])
      expect(auditEntry("POST", address)).toBeNull();
  });
});
