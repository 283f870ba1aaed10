"use client";
import Button from "@mui/material/Button";
import { useRouter } from "next/navigation";
import { useState } from "react";
import { ApiError } from "./api";
import { For, useMember } from "./useMember";

/** What the server does with one kind of document on its list. */
interface Deeds {
  duplicate: (id: string) => Promise<unknown>;
  remove: (id: string) => Promise<unknown>;
  restore: (id: string) => Promise<unknown>;
}
type Act = (work: () => Promise<unknown>) => Promise<void>;

/** Does something and shows the list as the server then has it; a refusal is said. */
export function useActs(): { act: Act; fault: string | null; forget: () => void } {
  const [fault, setFault] = useState<string | null>(null);
  const router = useRouter();
  const act: Act = async (work) => {
    try {
      setFault(null);
      await work();
      router.refresh();
    } catch (error) {
      if (!(error instanceof ApiError)) throw error;
      setFault(error.message);
    }
  };
  return { act, fault, forget: () => setFault(null) };
}

/** Copy, export, put away: the deeds beside a row. @param at the kind's own address under /api */
export function RowActions({ id, name, at, deeds, act }: { id: string; name: string; at: string; deeds: Deeds; act: Act }) {
  return (
    <div className="row-actions">
      <For who="work">
        <Button size="small" aria-label={`Copy ${name}`} onClick={() => void act(() => deeds.duplicate(id))}>
          Copy
        </Button>
      </For>
      <Button size="small" aria-label={`Export ${name}`} href={`/api/${at}/${id}/file`}>
        Export
      </Button>
      <For who="keep">
        <Button size="small" aria-label={`Put away ${name}`} onClick={() => void act(() => deeds.remove(id))}>
          Put away
        </Button>
      </For>
    </div>
  );
}

/** What was put away, to be brought back. */
export function PutAway({ rows, deeds, act }: { rows: readonly { id: string; name: string }[]; deeds: Deeds; act: Act }) {
  const { may } = useMember();
  if (rows.length === 0 || !may("keep")) return null;
  return (
    <details>
      <summary style={{ cursor: "pointer", padding: "8px 0" }}>Put away ({rows.length})</summary>
      <ul style={{ listStyle: "none", padding: 0, margin: 0 }}>
        {rows.map(({ id, name }) => (
          <li key={id} style={{ display: "flex", gap: 12, alignItems: "center", padding: "4px 0" }}>
            <span style={{ overflowWrap: "anywhere" }}>{name}</span>
            <Button size="small" onClick={() => void act(() => deeds.restore(id))}>
              Bring back
            </Button>
          </li>
        ))}
      </ul>
    </details>
  );
}
