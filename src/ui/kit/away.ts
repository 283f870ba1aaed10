/** How often a server that is away is asked again, ms. */
const AGAIN_MS = 5000;
/** Any answer of this but a refusal for now says that the server and its database are there. */
const ASKED = "/api/rigs";

/** What a page says while the server or its database is away. */
export interface AwayWords {
  title: string;
  words: string;
}

/**
 * Asks after the server for a page that could not be drawn: tells its words where that is because it is away, and draws the page again once it is back.
 * @returns what ends the asking
 */
export function untilBack(tell: (words: AwayWords) => void): () => void {
  let timer: ReturnType<typeof setTimeout> | undefined;
  const asking = new AbortController();
  const look = async (waited: boolean) => {
    const status = await fetch(ASKED, { signal: asking.signal, cache: "no-store" }).then(
      (answer) => answer.status,
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
