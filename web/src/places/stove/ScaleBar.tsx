import { useEffect, useState } from "react";
import { useHere } from "../../api/here";
import { useScaleNow } from "../../api/kitchen";
import { useUnits } from "../../kit/system";
import { TextBox } from "../../kit/TextBox";
import { typedGrams } from "../../kit/typed";
import { massText } from "../../kit/units";

interface Props {
  /** The line that is next, and what the scale should show once it is on. */
  next: { name: string; mass_g: number } | null;
  /** The bowl that stands on the scale, empty at nought; undefined where there is only one. */
  bowl: string | undefined;
  tare_g: number;
  onRead: (grams: number | null) => void;
}

const NEAR_SHARE = 0.01;
const NEAR_G = 1;

/** What the scale shows, read from a registered one or typed, beside what it should show. */
export function ScaleBar({ next, bowl, tare_g, onRead }: Props) {
  const here = useHere();
  const { system } = useUnits();
  const scale = useScaleNow(here.slug, true);
  const [typed, setTyped] = useState("");
  const live = scale.data?.grams ?? null;
  const settling = live !== null && !scale.data?.steady;
  const reading = settling ? null : (live ?? typedGrams(typed, system));
  useEffect(() => onRead(reading), [reading, onRead]);
  const goal = next ? tare_g + next.mass_g : tare_g;
  const off = reading === null ? null : reading - goal;
  const near = off !== null && Math.abs(off) <= Math.max(NEAR_G, NEAR_SHARE * (next?.mass_g ?? goal));
  return (
    <div className="grid gap-2 border border-hair bg-paper px-4 py-3 sm:grid-cols-[auto_minmax(0,1fr)] sm:items-center sm:gap-5">
      {live === null ? (
        <div className="w-40">
          <TextBox
            label={`The scale shows, ${system === "metric" ? "g" : "oz"}`}
            error={typed.trim() && reading === null ? "Write a weight as a number." : undefined}
            numeric
            className="figure w-full text-[1.5rem]"
            value={typed}
            onChange={setTyped}
          />
        </div>
      ) : (
        <p>
          <span className="block text-soft">{scale.data?.device} shows</span>
          <span className={`figure text-[2.2rem] ${scale.data?.steady ? "" : "text-soft"}`}>
            {massText(live, system)}
          </span>
        </p>
      )}
      <p role="status">
        {next ? (
          <>
            {bowl ? `${bowl[0]?.toUpperCase()}${bowl.slice(1)}: scale` : "Scale"} with the <b>{next.name}</b>{" "}
            on it: <b className="tabular">{massText(goal, system)}</b>
          </>
        ) : (
          <>
            Scale with everything on it: <b className="tabular">{massText(goal, system)}</b>
          </>
        )}
        {settling ? (
          <span className="block text-soft">settling …</span>
        ) : off === null ? null : near ? (
          <span className="block font-bold text-herb">✓ there</span>
        ) : (
          <span className="block font-bold text-copper">
            {massText(Math.abs(off), system)} {off < 0 ? "to go" : "too much"}
          </span>
        )}
      </p>
    </div>
  );
}
