"use client";
import { useRouter } from "next/navigation";
import { useEffect, useRef } from "react";
import { useHotkeys } from "react-hotkeys-hook";
import type { PartId } from "../../cutter/partId";
import type { DeskView } from "../../cutter/views";
import { useDocumentKeys } from "../../kit/DocumentStatus";
import { HOTKEYS } from "../../kit/hotkeys";
import type { DeskStore } from "./deskStore";

export interface DeskKeysProps {
  store: DeskStore;
  pick: (part: PartId) => void;
  onView: (view: DeskView) => void;
  onSetups: () => void;
  onShortcuts: () => void;
  /** the keys listen */
  onReady: () => void;
}

/** The desk's single keys. */
export function DeskKeys({ store, pick, onView, onSetups, onShortcuts, onReady }: DeskKeysProps): null {
  const router = useRouter();
  const ready = useRef(onReady);
  useEffect(() => ready.current(), []);
  useDocumentKeys(store, onShortcuts);
  useHotkeys("f", () => pick("foam"), HOTKEYS);
  useHotkeys("w", () => pick("wire"), HOTKEYS);
  useHotkeys("s", () => pick("supply"), HOTKEYS);
  useHotkeys("c", () => pick("control"), HOTKEYS);
  useHotkeys("t", () => pick("tension"), HOTKEYS);
  useHotkeys("v", () => pick("feed"), HOTKEYS);
  useHotkeys("p", () => document.querySelector<SVGGElement>('[role="slider"][aria-label^="Working point"]')?.focus(), HOTKEYS);
  useHotkeys("d", () => onView("desk"), HOTKEYS);
  useHotkeys("n", () => onView("tension"), HOTKEYS);
  useHotkeys("e", () => onView("bench"), HOTKEYS);
  useHotkeys("x", () => onView("wiring"), HOTKEYS);
  useHotkeys("k", () => onView("log"), HOTKEYS);
  useHotkeys("b", () => onView("sheet"), HOTKEYS);
  useHotkeys("g", () => onSetups(), HOTKEYS);
  useHotkeys("l", () => router.push("/cutters"), HOTKEYS);
  return null;
}
