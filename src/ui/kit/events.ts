/** The server says that it is still there every twenty seconds: after three such silences the line is dead, even if the browser reports it open, ms. */
export const SILENT_MS = 65_000;
/** A line that broke is tried again after so long, ms. */
export const AGAIN_MS = 3000;

interface Listener {
  message: (data: string) => void;
  open?: () => void;
  broken?: () => void;
}

/**
 * Hears a server's events (HTML standard, 9.2) until it is ended: opened again where the browser gave up, as it does when something on the way answers for a server that is
 * away, and where nothing came for too long.
 * @returns what ends it
 */
export function openEvents(address: string, onMessage: Listener): () => void {
  let source: EventSource | null = null;
  let silence: ReturnType<typeof setTimeout> | undefined;
  let again: ReturnType<typeof setTimeout> | undefined;
  const begin = () => {
    clearTimeout(again);
    source?.close();
    const own = new EventSource(address);
    source = own;
    alive();
    own.onopen = () => {
      alive();
      onMessage.open?.();
    };
    own.onmessage = ({ data }) => {
      alive();
      onMessage.message(String(data));
    };
    own.addEventListener("here", alive);
    own.onerror = () => {
      onMessage.broken?.();
      // The browser tries again automatically unless it has closed it for good.
      if (own.readyState === EventSource.CLOSED) {
        clearTimeout(silence);
        clearTimeout(again);
        again = setTimeout(begin, AGAIN_MS);
      }
    };
  };
  const alive = () => {
    clearTimeout(silence);
    silence = setTimeout(() => {
      onMessage.broken?.();
      begin();
    }, SILENT_MS);
  };
  begin();
  return () => {
    clearTimeout(silence);
    clearTimeout(again);
    source?.close();
  };
}
