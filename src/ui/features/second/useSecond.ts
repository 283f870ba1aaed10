import { useCallback, useEffect, useRef, useState } from "react";
import { type ClockSample, clockHeld, clockOffset, type HeldClock } from "@/core/pace/twoEnds";
import { ApiError, api, type SecondAbout, type SecondAction, type SecondView } from "../../kit/api";
import { openEvents } from "../../kit/events";

/** Questions about the server's clock at once, and how long until they are asked again, ms: clocks of phones drift by some parts in a million. */
const REQUESTED = 9;
const AGAIN_MS = 60_000;
/** Not surer than this, ms, it is asked on, less and less often, so many times: a page that is still drawing itself hears late. */
const SURE_MS = 10;
const MOST_REQUESTED = 40;
const PAUSE_MS = 50;
/** What has no state of its own is looked at this often, ms. */
const LOOK_MS = 500;

export interface Second {
  about: SecondAbout | null;
  view: SecondView | null;
  /** the server's clock less this one, ms, and the most that is wrong by */
  offsetMs: number | null;
  withinMs: number | null;
  fault: string | null;
  /** put down, or its ticket has run out */
  over: boolean;
  act: (action: SecondAction) => Promise<void>;
}

/** A second screen by its ticket: what is on it as it changes, and the server's clock. */
export function useSecond(ticket: string | null): Second {
  const [view, setView] = useState<SecondView | null>(null);
  const [about, setAbout] = useState<SecondAbout | null>(null);
  const [clock, setClock] = useState<HeldClock | null>(null);
  const [fault, setFault] = useState<string | null>(null);
  const [over, setOver] = useState(false);
  // Answers may overtake one another: the newest stands.
  const newest = useRef(0);
  const take = useCallback((next: SecondView) => {
    // Its subject never changes, so a late response is still right.
    if (next.about) setAbout(next.about);
    if (next.revision < newest.current) return;
    newest.current = next.revision;
    setView(next);
    setFault(null);
    if (next.ended) setOver(true);
  }, []);
  const failed = useCallback((error: unknown) => {
    if (!(error instanceof ApiError)) throw error;
    if (error.status === 401 || error.status === 404) setOver(true);
    setFault(error.message);
  }, []);
  const act = useCallback(
    async (action: SecondAction) => {
      if (ticket === null) return;
      try {
        take(await api.second.act(ticket, action));
      } catch (error) {
        failed(error);
      }
    },
    [ticket, take, failed],
  );
  useEffect(() => {
    if (ticket === null) return;
    const leaving = new AbortController();
    newest.current = 0;
    setOver(false);
    api.second.get(ticket, leaving.signal).then(take, (error) => !leaving.signal.aborted && failed(error));
    const end = openEvents(`/api/second/${ticket}/events`, {
      message: (data) => {
        void import("@/contract/second/contract").then(({ SECOND }) => {
          const read = SECOND.act.response.safeParse(JSON.parse(data));
          if (read.success) take(read.data);
        });
      },
      broken: () => setFault("The workshop's computer does not answer: what is shown goes on by its last word."),
      open: () => setFault(null),
    });
    return () => {
      leaving.abort();
      end();
    };
  }, [ticket, take, failed]);
  useEffect(() => {
    if (ticket === null || over) return;
    let gone = false;
    const ask = async () => {
      const samples: ClockSample[] = [];
      for (let i = 0; i < MOST_REQUESTED && !gone; i++) {
        try {
          const sentMs = Date.now();
          const { nowMs } = await api.second.act(ticket, { do: "look" });
          samples.push({ sentMs, saidMs: nowMs, lastReportMs: Date.now() });
        } catch (error) {
          failed(error);
          break;
        }
        if (i < REQUESTED - 1) continue;
        const found = clockOffset(samples);
        if (!gone && found) setClock((held) => clockHeld(held, { ...found, atMs: Date.now() }));
        if (found && found.withinMs <= SURE_MS) break;
        await new Promise((resolve) => setTimeout(resolve, PAUSE_MS * (i - REQUESTED + 2)));
      }
    };
    void ask();
    const timer = setInterval(() => void ask(), AGAIN_MS);
    const back = () => document.visibilityState === "visible" && void ask();
    document.addEventListener("visibilitychange", back);
    return () => {
      gone = true;
      clearInterval(timer);
      document.removeEventListener("visibilitychange", back);
    };
  }, [ticket, over, failed]);
  const looks = about?.kind === "dial" || about?.kind === "stop";
  useEffect(() => {
    if (!looks || over) return;
    const timer = setInterval(() => void act({ do: "look" }), LOOK_MS);
    return () => clearInterval(timer);
  }, [looks, over, act]);
  return { about, view, offsetMs: clock?.offsetMs ?? null, withinMs: clock?.withinMs ?? null, fault, over, act };
}
