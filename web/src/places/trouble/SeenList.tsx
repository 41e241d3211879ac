import { ToggleGroup } from "radix-ui";
import type { Seen } from "../../api/trouble";
import { Button } from "../../kit/Button";
import { SeenDrawing } from "./SeenDrawing";

interface Props {
  seen: readonly Seen[];
  chosen: string | null;
  onChoose: (fault: string) => void;
  onAgain: () => void;
}

/** Everything that can be seen, as large touches; arrows move between them. What cannot be met here is last. */
export function SeenList({ seen, chosen, onChoose, onAgain }: Props) {
  const met = seen.filter((one) => one.met);
  const others = seen.filter((one) => !one.met);
  const now = seen.find((one) => one.fault === chosen);
  const wide = chosen === null;
  return (
    <>
      {now ? (
        <p className="flex items-center gap-3 border-l-4 border-iron bg-paper px-3 py-2 font-bold md:hidden">
          <SeenDrawing fault={now.fault} />
          <span className="grow">{now.name}</span>
          <Button onClick={onAgain}>Something else</Button>
        </p>
      ) : null}
      <ToggleGroup.Root
        type="single"
        orientation={wide ? undefined : "vertical"}
        aria-label="What do you see?"
        value={chosen ?? ""}
        onValueChange={(next) => next && onChoose(next)}
        className={now ? "hidden md:block" : ""}
      >
        <div className={wide ? "grid gap-x-6 sm:grid-cols-2 lg:grid-cols-3 xl:grid-cols-4" : "grid"}>
          {met.map((one) => (
            <Item key={one.fault} one={one} />
          ))}
        </div>
        {others.length ? (
          <details open={others.some((one) => one.fault === chosen)} className="mt-3">
            <summary className="min-h-11 py-2.5 text-soft">
              {others.length} more, not usual in this sauce
            </summary>
            <div className={wide ? "grid gap-x-6 sm:grid-cols-2 lg:grid-cols-3 xl:grid-cols-4" : "grid"}>
              {others.map((one) => (
                <Item key={one.fault} one={one} />
              ))}
            </div>
          </details>
        ) : null}
      </ToggleGroup.Root>
    </>
  );
}

function Item({ one }: { one: Seen }) {
  return (
    <ToggleGroup.Item
      value={one.fault}
      className="flex min-h-13 w-full items-center gap-3 border-b border-l-4 border-b-hair border-l-transparent px-3 py-1.5 text-left leading-tight hover:bg-paper data-[state=on]:border-l-iron data-[state=on]:bg-paper data-[state=on]:font-bold"
    >
      <SeenDrawing fault={one.fault} />
      {one.name}
    </ToggleGroup.Item>
  );
}
