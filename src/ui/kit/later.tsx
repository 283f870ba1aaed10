"use client";
import { type ComponentType, useEffect, useState } from "react";

/** How long after a part did not come it is asked for again, ms. */
const AGAIN_MS = 2000;

/**
 * A part that is not seen at first: its code is no part of the page's first load, and is fetched once the page has loaded, since it must open also while the server is away.
 * What could not be fetched is asked for again until it comes, and anyone who wants it meanwhile sees a notice.
 * @param shown whether it is to be seen, by its props: before that nothing is drawn
 */
export function later<P extends object>(load: () => Promise<ComponentType<P>>, shown: (props: P) => boolean): ComponentType<P> {
  let loaded: ComponentType<P> | null = null;
  // biome-ignore lint/correctness/noComponentHookFactories: made once, as its module is read
  return function Later(props: P) {
    const [Part, setPart] = useState(() => loaded);
    const [deviations, setDeviations] = useState(0);
    useEffect(() => {
      if (Part) return;
      let again: ReturnType<typeof setTimeout> | undefined;
      let gone = false;
      load().then(
        (part) => {
          loaded = part;
          setPart(() => part);
        },
        () => {
          if (!gone) again = setTimeout(() => setDeviations((count) => count + 1), deviations === 0 ? 0 : AGAIN_MS);
        },
      );
      return () => {
        gone = true;
        clearTimeout(again);
      };
    }, [Part, deviations]);
    if (!shown(props)) return null;
    if (Part) return <Part {...props} />;
    return deviations === 0 ? null : (
      <p role="status" className="late-part">
        This part of the page has not come yet: the workshop's computer does not answer. It is asked for again every two seconds.
      </p>
    );
  };
}

/**
 * A part that is drawn alone, such as a view: its code is fetched when somebody goes there, never on the server, and without the weight of the framework's own way of doing so.
 * @throws in drawing, what kept it from being fetched: the nearest boundary says so
 */
export function onDemand<P extends object>(load: () => Promise<ComponentType<P>>): ComponentType<P> {
  let loaded: ComponentType<P> | null = null;
  // biome-ignore lint/correctness/noComponentHookFactories: made once, as its module is read
  return function OnDemand(props: P) {
    const [Part, setPart] = useState(() => loaded);
    const [fault, setFault] = useState<Error | null>(null);
    useEffect(() => {
      if (Part) return;
      load().then((part) => {
        loaded = part;
        setPart(() => part);
      }, setFault);
    }, [Part]);
    if (fault) throw fault;
    return Part && <Part {...props} />;
  };
}
