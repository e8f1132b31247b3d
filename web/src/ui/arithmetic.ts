/** Plain arithmetic as it is typed into a number field: + - * / and brackets. */

const TOKEN = /\s*(?:(\d+(?:[.,]\d*)?|[.,]\d+)|([-+*/()×]))/y;

function tokens(text: string): string[] | null {
  const found: string[] = [];
  TOKEN.lastIndex = 0;
  while (TOKEN.lastIndex < text.length) {
    const match = TOKEN.exec(text);
    if (!match) return null;
    found.push((match[1]?.replace(",", ".") ?? match[2] ?? "").replace("×", "*"));
  }
  return found;
}

/** The value of the typed arithmetic, or null if it is none. A trailing unit is ignored. */
export function evaluate(typed: string): number | null {
  const list = tokens(
    typed
      .trim()
      .replace(/(%|px|x)$/i, "")
      .trim(),
  );
  if (!list || list.length === 0) return null;
  let at = 0;

  function factor(): number {
    const token = list?.[at++];
    if (token === "-") return -factor();
    if (token === "+") return factor();
    if (token === "(") {
      const inner = sum();
      return list?.[at++] === ")" ? inner : Number.NaN;
    }
    return token === undefined ? Number.NaN : Number(token);
  }

  function product(): number {
    let value = factor();
    while (list?.[at] === "*" || list?.[at] === "/") {
      const times = list[at++] === "*";
      const next = factor();
      value = times ? value * next : value / next;
    }
    return value;
  }

  function sum(): number {
    let value = product();
    while (list?.[at] === "+" || list?.[at] === "-") {
      const plus = list[at++] === "+";
      const next = product();
      value = plus ? value + next : value - next;
    }
    return value;
  }

  const value = sum();
  return at === list.length && Number.isFinite(value) ? value : null;
}
