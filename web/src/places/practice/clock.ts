/** A time since the beginning, as a clock shows it. */
export function clockText(seconds: number): string {
  const whole = Math.max(0, Math.floor(seconds));
  return `${Math.floor(whole / 60)}:${String(whole % 60).padStart(2, "0")}`;
}

export const KINDS: Record<string, string> = {
  stove: "at the stove",
  temper: "a bowl and a jug",
  rescue: "at the stove",
  chill: "with the clock let run",
  slip: "a question",
  scale: "a question",
  spoons: "a question",
};
