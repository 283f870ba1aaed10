"use client";
import { createContext, type ReactNode, useCallback, useContext, useMemo, useState } from "react";
import { formatQuantity, type Quantity, type UnitSystem } from "@/core/units/units";

export interface Units {
  system: UnitSystem;
  setSystem: (system: UnitSystem) => void;
  /** A canonical value in the chosen unit, with the unit. */
  show: (quantity: Quantity, canonical: number, decimals?: number) => string;
}

const UnitsContext = createContext<Units | null>(null);
const YEAR_SECONDS = 365 * 24 * 3600;

/** Holds the one unit switch; a cookie remembers it, so that the first picture from the server is right. */
export function UnitsProvider({ initial, children }: { initial: UnitSystem; children: ReactNode }) {
  const [system, set] = useState(initial);
  const setSystem = useCallback((next: UnitSystem) => {
    // biome-ignore lint/suspicious/noDocumentCookie: the cookie store API is not in every browser a workshop tablet has
    document.cookie = `upwind-units=${next}; path=/; max-age=${YEAR_SECONDS}; samesite=strict`;
    set(next);
  }, []);
  const value = useMemo<Units>(
    () => ({ system, setSystem, show: (quantity, canonical, decimals) => formatQuantity(quantity, canonical, system, decimals) }),
    [system, setSystem],
  );
  return <UnitsContext.Provider value={value}>{children}</UnitsContext.Provider>;
}

export function useUnits(): Units {
  const units = useContext(UnitsContext);
  if (!units) throw new Error("useUnits is used outside its provider");
  return units;
}
