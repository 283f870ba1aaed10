/** Opens the data folder before the first request, lays in the demo if asked, and closes cleanly on the way out. */
export async function register() {
  if (process.env.NEXT_RUNTIME !== "nodejs") return;
  const { installAccessGuard } = await import("./server/kernel/accessGuard");
  const { startWorkshop } = await import("./server/startWorkshop");
  installAccessGuard();
  await startWorkshop();
}
