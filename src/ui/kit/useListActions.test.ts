import { expect, it, vi } from "vitest";
import { ApiError } from "./api";
import { type ListClient, type ListNotice, listActions } from "./useListActions";

const BOW = { id: "b", revision: 3, document: { name: "Bow", notes: "kept" } };

function page(client: Partial<ListClient>) {
  const notices: (ListNotice | null)[] = [];
  const opened: string[] = [];
  const refresh = vi.fn();
  const refuse = async (): Promise<never> => {
    throw new Error("not called");
  };
  const whole: ListClient = { get: refuse, save: refuse, duplicate: refuse, remove: refuse, restore: refuse, importText: refuse, ...client };
  return { notices, opened, refresh, actions: listActions(whole, { notify: (notice) => notices.push(notice), refresh, onImported: (id) => opened.push(id) }) };
}
const file = (text: string, size = text.length) => ({ name: "bow.upwind.json", size, text: async () => text });

it("renames over the newest revision and changes nothing but the name", async () => {
  const save = vi.fn(async () => undefined);
  const { actions, refresh, notices } = page({ get: async () => BOW, save });
  await actions.rename("b", "Long bow");
  expect(save).toHaveBeenCalledWith("b", 3, { name: "Long bow", notes: "kept" });
  expect(refresh).toHaveBeenCalledTimes(1);
  expect(notices).toEqual([null]);
});

it("archives with a notice that names the document, and restores without one", async () => {
  const { actions, notices } = page({ remove: async () => BOW, restore: async () => BOW });
  await actions.archive("b");
  await actions.restore("b");
  expect(notices).toEqual([{ kind: "archived", id: "b", name: "Bow" }, null]);
});

it("imports a file and reports its id; one that is too large is not read", async () => {
  const importText = vi.fn(async () => BOW);
  const { actions, opened, notices } = page({ importText });
  await actions.importFile(file("{}"), 100);
  expect([importText.mock.calls, opened]).toEqual([[["{}"]], ["b"]]);
  await actions.importFile(file("{}", 401), 100);
  expect(importText).toHaveBeenCalledTimes(1);
  expect(notices.at(-1)).toMatchObject({ kind: "error", message: expect.stringContaining("100 characters") });
});

it("shows a refusal by the server, does not refresh, and throws any other error", async () => {
  const refused = page({
    duplicate: async () => {
      throw new ApiError("role", "You may only look.", 403);
    },
  });
  await refused.actions.copy("b");
  expect(refused.notices).toEqual([{ kind: "error", message: "You may only look." }]);
  expect(refused.refresh).not.toHaveBeenCalled();
  await expect(page({}).actions.copy("b")).rejects.toThrow("not called");
});
