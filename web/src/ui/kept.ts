import { create } from "zustand";
import { persist } from "zustand/middleware";

type Kept = Record<string, unknown>;

const useAll = create<Kept>()(persist(() => ({}), { name: "cadrage.page" }));

/** A setting of the page that this browser keeps, such as folds, widths and appearance. */
export function useKept<Value>(name: string, initial: Value): [Value, (value: Value) => void] {
  const value = useAll((all) => (all[name] as Value | undefined) ?? initial);
  return [value, (next) => useAll.setState({ [name]: next })];
}
