"use client";

import { useEffect, useState } from "react";
import type { AwayNotice } from "@/ui/kit/away";
import { PageTitle } from "@/ui/kit/PageTitle";

/** What a page that could not be drawn says: a fault, or, where the server or its database is away, that it is, until they are back. How that is found out is no part of any page's first load. */
export default function PageError() {
  const [away, setAway] = useState<AwayNotice>();
  useEffect(() => {
    // What cannot be fetched leaves the plain words and the key.
    const asking = import("@/ui/kit/away").then(
      ({ untilBack }) => untilBack(setAway),
      () => undefined,
    );
    return () => void asking.then((end) => end?.());
  }, []);
  return (
    <main className="fault-page">
      <PageTitle />
      <h1>{away?.title ?? "This page met a fault"}</h1>
      <p>{away?.words ?? "Nothing saved was lost. The server's log has the cause."}</p>
      <button type="button" onClick={() => location.reload()}>
        Try again
      </button>
    </main>
  );
}
