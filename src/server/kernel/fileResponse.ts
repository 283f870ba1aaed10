import { type FileHandle, open, rm } from "node:fs/promises";

const CHUNK_BYTES = 256 * 1024;
/** A reader that takes nothing for so long is given up, ms. */
const STALL_MS = 30_000;

/**
 * Sends a file as it is read. The file is closed as soon as the client leaves, reads nothing for {@link STALL_MS}, or has all of it.
 * @param signal the request's own: aborted when the client is gone
 * @param temporary whether the file is deleted then
 */
export async function fileResponse(
  file: string,
  { type, name, signal, temporary = false, stallMs = STALL_MS }: { type: string; name: string; signal: AbortSignal; temporary?: boolean; stallMs?: number },
): Promise<Response> {
  let handle: FileHandle | null = await open(file, "r");
  const { size } = await handle.stat();
  let timer: NodeJS.Timeout | undefined;
  const close = async () => {
    clearTimeout(timer);
    signal.removeEventListener("abort", onAbort);
    const open = handle;
    handle = null;
    await open?.close();
    if (open && temporary) await rm(file, { force: true });
  };
  let fail = (_error: Error) => {};
  const onAbort = () => fail(new Error("the client is gone"));
  const stream = new ReadableStream<Uint8Array>(
    {
      start(controller) {
        fail = (error) => {
          controller.error(error);
          void close();
        };
        if (signal.aborted) onAbort();
        signal.addEventListener("abort", onAbort);
        timer = setTimeout(() => fail(new Error("the client stopped reading")), stallMs);
      },
      async pull(controller) {
        clearTimeout(timer);
        if (!handle) return;
        try {
          const { bytesRead, buffer } = await handle.read(new Uint8Array(CHUNK_BYTES), 0, CHUNK_BYTES);
          if (bytesRead === 0) {
            controller.close();
            await close();
            return;
          }
          controller.enqueue(buffer.subarray(0, bytesRead));
          timer = setTimeout(() => fail(new Error("the client stopped reading")), stallMs);
        } catch (error) {
          fail(error as Error);
        }
      },
      cancel: close,
    },
    { highWaterMark: 1 },
  );
  return new Response(stream, {
    headers: { "content-type": type, "content-length": String(size), "content-disposition": `attachment; filename="${name}"`, "cache-control": "no-store" },
  });
}
