/** How numbers are written and read. Lengths come and go in mm; inch exists only here. */
export type Unit = "mm" | "inch";

const INCH = 25.4;
const MINUS = "\u2212";

function plain(value: number, digits: number): string {
  const text = value.toFixed(digits);
  const clean = Number(text) === 0 ? text.replace("-", "") : text;
  return clean.replace("-", MINUS);
}

export const fixed = plain;

/** Groups of three with a thin gap, as in 8 640. */
export function grouped(value: number, digits = 0): string {
  const [whole = "", rest] = plain(value, digits).split(".");
  const spaced = whole.replace(/\B(?=(\d{3})+(?!\d))/g, "\u202f");
  return rest ? `${spaced}.${rest}` : spaced;
}

export function lengthText(mm: number, unit: Unit, digits = 2): string {
  return unit === "mm" ? plain(mm, digits) : plain(mm / INCH, digits + 2);
}

export function feedText(mmPerMinute: number, unit: Unit): string {
  return unit === "mm" ? plain(mmPerMinute, 0) : plain(mmPerMinute / INCH, 1);
}

export function areaText(mm2: number, unit: Unit): string {
  return unit === "mm" ? grouped(mm2) : plain(mm2 / INCH / INCH, 2);
}

export function volumeText(mm3: number, unit: Unit): string {
  return unit === "mm" ? grouped(mm3) : plain(mm3 / INCH / INCH / INCH, 3);
}

/** 331.04 s as 5:31.0, as the papers have it. */
export function clock(seconds: number): string {
  const tenths = Math.round(seconds * 10);
  const minutes = Math.floor(tenths / 600);
  const rest = Math.floor((tenths % 600) / 10);
  return `${minutes}:${String(rest).padStart(2, "0")}.${tenths % 10}`;
}

export function hoursText(hours: number): string {
  const minutes = Math.round(hours * 60);
  return `${Math.floor(minutes / 60)}:${String(minutes % 60).padStart(2, "0")}`;
}

export function signed(value: number, digits: number): string {
  const text = plain(Math.abs(value), digits);
  if (Number(text) === 0) return text;
  return (value < 0 ? MINUS : "+") + text;
}

export function moneyText(value: string | number): string {
  return grouped(Number(value), 2);
}

/**
 * Reads what people type: `1/4`, `0.25in`, `6,35`, `3x8+2`, `2*(3+1)`. Returns mm (or the bare number where `unit` is
 * null), and null for what is no number.
 */
export function readNumber(text: string, unit: Unit | null): number | null {
  const tokens = text
    .toLowerCase()
    .replaceAll(MINUS, "-")
    .replace(/(\d),(\d)/g, "$1.$2")
    .match(/\d*\.?\d+|in(?:ch)?|mm|["x×*/+()-]|\S/g);
  if (!tokens) return null;
  let at = 0;
  let named = false;
  const peek = () => tokens[at];

  function bare(): number {
    const token = tokens?.[at++];
    if (token === "(") {
      const value = sum();
      if (tokens?.[at++] !== ")") throw new Error("unbalanced");
      return value;
    }
    if (token === "-") return -bare();
    if (token === undefined || !/^\d*\.?\d+$/.test(token)) throw new Error("no number");
    return Number(token);
  }
  function suffix(value: number): number {
    const token = peek();
    if (unit !== null && (token === "in" || token === "inch" || token === '"')) {
      at++;
      named = true;
      return value * INCH;
    }
    if (unit !== null && token === "mm") {
      at++;
      named = true;
      return value;
    }
    return value;
  }
  function product(): number {
    let value = suffix(bare());
    for (let token = peek(); token && "x×*/".includes(token); token = peek()) {
      at++;
      // what is named after a fraction is the unit of all of it: 1/4" is a quarter of an inch
      value = token === "/" ? suffix(value / bare()) : value * suffix(bare());
    }
    return value;
  }
  function sum(): number {
    let value = product();
    for (let token = peek(); token === "+" || token === "-"; token = peek()) {
      at++;
      const next = product();
      value = token === "+" ? value + next : value - next;
    }
    return value;
  }
  try {
    const value = sum();
    if (at !== tokens.length || !Number.isFinite(value)) return null;
    return unit === "inch" && !named ? value * INCH : value;
  } catch {
    return null;
  }
}

/** `2:30` as hours and minutes (2.5), or a plain number of hours. */
export function readHours(text: string): number | null {
  const match = /^(\d+):([0-5]\d)$/.exec(text.trim());
  if (match) return Number(match[1]) + Number(match[2]) / 60;
  return readNumber(text, null);
}
