import { useEffect } from "react";
import { Note } from "../ui/note";
import { useWalked } from "./history";

const SHOWN_MS = 6000;

/** Names an undone or redone change that is not visible on the page. */
export function WalkedNote() {
  const text = useWalked((state) => state.text);
  useEffect(() => {
    if (!text) return;
    const timer = setTimeout(forget, SHOWN_MS);
    return () => clearTimeout(timer);
  }, [text]);
  return text && <Note text={text} onClose={forget} />;
}

const forget = () => useWalked.setState({ text: null });
