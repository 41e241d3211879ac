/** A batch keeps its tint through all lanes; its letter tells it apart where colour does not. */

const TINTS = [
  "bg-yolk-pale",
  "bg-slate-pale",
  "bg-brick-pale",
  "bg-[#dfe5d3]",
  "bg-[#eadfc0]",
  "bg-[#e6d9e2]",
  "bg-[#d3e2de]",
  "bg-[#efd9b4]",
] as const;

export function tintOf(tint: number): string {
  return TINTS[tint % TINTS.length] as string;
}

/** "A" for the first, "B" for the next, "AA" after "Z". */
export function letterOf(place: number): string {
  const letter = String.fromCharCode(65 + (place % 26));
  return place < 26 ? letter : `${letterOf(Math.floor(place / 26) - 1)}${letter}`;
}
