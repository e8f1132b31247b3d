import { createContext, useContext } from "react";
import { type StoreApi, useStore } from "zustand";
import { useShallow } from "zustand/react/shallow";

/** The store of one page: its provider, and hooks for the components of the page. */
export function pageStore<State extends object>() {
  const Context = createContext<StoreApi<State> | null>(null);

  function useApi(): StoreApi<State> {
    const store = useContext(Context);
    if (!store) throw new Error("This component is used outside its page.");
    return store;
  }

  /** Some fields of the state; the component renders again when any of these changes. */
  function useFields<Key extends keyof State>(...keys: Key[]): Pick<State, Key> {
    const fieldsOf = (state: State) => Object.fromEntries(keys.map((key) => [key, state[key]]));
    return useStore(useApi(), useShallow(fieldsOf)) as Pick<State, Key>;
  }

  return {
    Provider: Context,
    useFields,
    /** A value derived from the state, such as a number or text. */
    useValue: <Value>(select: (state: State) => Value) => useStore(useApi(), select),
    /** The present state, for a callback. */
    useGetState: (): (() => State) => useApi().getState,
  };
}
