import { useEffect } from "react";
import { useKept } from "./kept";
import { useKeys } from "./keyboard";
import { Menu } from "./menu";

type Look = "system" | "light" | "dim";

const NAMES: Record<Look, string> = { system: "As the system", light: "Light", dim: "Dim, for dark rooms" };
const DARK = matchMedia("(prefers-color-scheme: dark)");

const isDim = (look: Look) => look === "dim" || (look === "system" && DARK.matches);

const useLook = () => useKept<Look>("look", "system");

/** Puts the look on the page, as it was chosen or as the system has it. */
export function LookOfPage() {
  const [look, setLook] = useLook();
  useKeys([{ keys: "Shift+D", does: "Dim or light", act: () => setLook(isDim(look) ? "light" : "dim") }]);
  useEffect(() => {
    const put = () => {
      document.documentElement.dataset.look = isDim(look) ? "dim" : "light";
      // For the pages of signing in, which have no script.
      // biome-ignore lint/suspicious/noDocumentCookie: the cookie store is not in every browser
      document.cookie = `look=${look === "system" ? "" : look}; path=/; max-age=31536000; samesite=lax`;
    };
    put();
    DARK.addEventListener("change", put);
    return () => DARK.removeEventListener("change", put);
  }, [look]);
  return null;
}

/** The choice of look. */
export function LookMenu() {
  const [look, setLook] = useLook();
  const names = Object.entries(NAMES) as [Look, string][];
  return (
    <Menu
      opener="Appearance"
      look="text-soft hover:text-ink"
      items={names.map(
        ([name, title]) => [name === look ? `${title} ✓` : title, () => setLook(name)] as const,
      )}
    />
  );
}
