"use client";
import { type RefObject, useEffect } from "react";
import { useQueryParameter } from "../../kit/address";
import { SecondKey } from "../second/SecondKey";
import { useSecond } from "../second/useSecond";

/** How often the bench's figures go to the other screen, ms. */
const TELL_MS = 400;

/** Puts the bench supply's dial on a second screen: what is wired to the app, or what this bench computes. */
export function FarDialKey({ name, scene }: { name: string; scene: RefObject<{ frame: { volts: number; currentA: number } | null }> }) {
  const [ticket, setTicket] = useQueryParameter("second");
  const { act, over } = useSecond(ticket || null);
  const on = ticket !== "" && !over;
  useEffect(() => {
    if (!on) return;
    const timer = setInterval(() => {
      const { frame } = scene.current;
      if (frame) void act({ do: "figures", figures: { volts_V: frame.volts, current_A: frame.currentA } });
    }, TELL_MS);
    return () => clearInterval(timer);
  }, [on, act, scene]);
  return (
    <SecondKey
      about={() => ({ kind: "dial", name })}
      ticket={on ? ticket : null}
      onTicket={(next) => setTicket(next ?? "", "replace")}
      joined="Volts and amps are there large, as they are read here."
    />
  );
}
