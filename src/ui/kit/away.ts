/** How often a server that is away is asked again, ms. */
const AGAIN_MS = 5000;
/** Any answer of this but a refusal for now says that the server and its database are there. */
const REQUESTED = "/api/rigs";

/** What a page says while the server or its database is away. */
export interface AwayNotice {
  title: string;
  words: string;
}

/**
 * For a page that could not be drawn: checks whether the server is away, says so, and draws the page again once it is back.
 * @returns what ends the asking
 */
export function untilBack(tell: (words: AwayNotice) => void): () => void {
  let timer: ReturnType<typeof setTimeout> | undefined;
  const asking = new AbortController();
  const look = async (waited: boolean) => {
    const status = await fetch(REQUESTED, { signal: asking.signal, cache: "no-store" }).then(
      (response) => response.status,
      () => 0,
    );
    if (asking.signal.aborted) return;
    if (status === 0 || status >= 502) {
      tell({
        title: "The workshop's computer does not answer",
        words: "It, or its database server, is away. Nothing that was saved is lost. This page tries again every five seconds.",
      });
      timer = setTimeout(() => void look(true), AGAIN_MS);
    } else if (waited) window.location.reload();
  };
  void look(false);
  return () => {
    clearTimeout(timer);
    asking.abort();
  };
}
