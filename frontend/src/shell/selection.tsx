/** What is pointed at: features light up in pictures and tables of every chapter alike. */
import { createContext, useContext, useMemo, useState, type ReactNode } from "react";
import type { Unit } from "./numbers";

type Selection = {
  chosen: ReadonlySet<string>;
  hovered: ReadonlySet<string>;
  choose: (features: Iterable<string>) => void;
  hover: (features: Iterable<string>) => void;
};

const SelectionContext = createContext<Selection | null>(null);
const UnitContext = createContext<{ unit: Unit; setUnit: (unit: Unit) => void } | null>(null);
const UNIT = "lean-ledger-unit";

export function SelectionProvider({ children }: { children: ReactNode }) {
  const [chosen, setChosen] = useState<ReadonlySet<string>>(new Set());
  const [hovered, setHovered] = useState<ReadonlySet<string>>(new Set());
  const value = useMemo(
    () => ({
      chosen,
      hovered,
      choose: (features: Iterable<string>) => setChosen(new Set(features)),
      hover: (features: Iterable<string>) => setHovered(new Set(features)),
    }),
    [chosen, hovered],
  );
  return <SelectionContext.Provider value={value}>{children}</SelectionContext.Provider>;
}

export function useSelection(): Selection {
  const value = useContext(SelectionContext);
  if (!value) throw new Error("no selection here");
  return value;
}

function stored(scope: string): Unit | null {
  const value = localStorage.getItem(`${UNIT}-${scope}`);
  return value === "mm" || value === "inch" ? value : null;
}

/** The unit of a plan where one was chosen for it, else the shop's: the one chosen last. */
export function UnitProvider({ scope, children }: { scope: string; children: ReactNode }) {
  const [unit, set] = useState<Unit>(() => stored(scope) ?? stored("shop") ?? "mm");
  const value = useMemo(
    () => ({
      unit,
      setUnit: (next: Unit) => {
        localStorage.setItem(`${UNIT}-${scope}`, next);
        localStorage.setItem(`${UNIT}-shop`, next);
        set(next);
      },
    }),
    [unit, scope],
  );
  return <UnitContext.Provider value={value}>{children}</UnitContext.Provider>;
}

export function useUnit() {
  const value = useContext(UnitContext);
  if (!value) throw new Error("no unit here");
  return value;
}
