import { useState } from "react";
import { type Day, type DayHands, useDayEdits } from "../../api/day";
import { useHere } from "../../api/here";
import { Button } from "../../kit/Button";
import { Wrong } from "../../kit/Field";
import { plain } from "../../kit/habits";
import { Sheet } from "../../kit/Sheet";
import { TextBox } from "../../kit/TextBox";
import { useTold } from "../../kit/Told";
import { typedNumber } from "../../kit/typed";
import { timeToType, typedTime } from "./times";
import { fieldsOf } from "./WantSheet";

const PLACES = [
  ["rings", "Rings"],
  ["steam", "Steam baths"],
  ["ice_bath", "Bowls in the ice bath"],
  ["ovens", "Ovens"],
  ["churns", "Churns"],
] as const;

/** Who is there and when, and what else there is to work with. */
export function RoomSheet({ day, when, onClose }: { day: Day; when: string; onClose: () => void }) {
  const here = useHere();
  const { hands } = useDayEdits(here.slug, when);
  return (
    <Sheet open onClose={onClose} title="Who is there, and what with">
      <div className="grid gap-2">
        {day.hands.map((one) => (
          <HandsRow key={`${one.id} ${one.revision}`} one={one} when={when} alone={day.hands.length === 1} />
        ))}
        <div>
          <Button
            disabled={hands.isPending}
            onClick={() =>
              hands.mutate({
                id: null,
                seen: null,
                name: `Pair of hands ${day.hands.length + 1}`,
                there: [[480, 960]],
              })
            }
          >
            One more pair of hands
          </Button>
          {hands.isError ? <Wrong>{hands.error.message}</Wrong> : null}
        </div>
      </div>
      <Places key={day.revision} day={day} when={when} />
      <Button className="mt-4" onClick={onClose}>
        Close
      </Button>
    </Sheet>
  );
}

function HandsRow({ one, when, alone }: { one: DayHands; when: string; alone: boolean }) {
  const here = useHere();
  const { hands, removeHands } = useDayEdits(here.slug, when);
  const { tell } = useTold();
  const there = one.there as [number, number][];
  const [name, setName] = useState(one.name);
  const [from, setFrom] = useState(timeToType(there[0]?.[0] ?? 480));
  const [until, setUntil] = useState(timeToType(there.at(-1)?.[1] ?? 960));
  const [wrong, setWrong] = useState("");
  const changed =
    name !== one.name ||
    from !== timeToType(there[0]?.[0] ?? 480) ||
    until !== timeToType(there.at(-1)?.[1] ?? 960);
  const save = () => {
    const [start, end] = [typedTime(from), typedTime(until)];
    if (start === null || end === null || end <= start) {
      setWrong("Write from when until when, as 7:30 and 15:00.");
      return;
    }
    setWrong("");
    // What was written in several spans keeps those between the first and the last.
    const spans = there.map(([a, b], n): [number, number] => [
      n === 0 ? start : a,
      n === there.length - 1 ? end : b,
    ]);
    hands.mutate(
      { id: one.id || null, seen: one.revision, name: name.trim(), there: spans },
      { onError: (error) => setWrong(fieldsOf(error).there ?? error.message) },
    );
  };
  return (
    <form
      className="grid grid-cols-[1fr_5rem_5rem_auto] items-end gap-2 border-b border-hair pb-2"
      onSubmit={(event) => {
        event.preventDefault();
        save();
      }}
    >
      <TextBox label="Hands" value={name} maxLength={80} onChange={setName} />
      <TextBox label="from" value={from} onChange={setFrom} />
      <TextBox label="until" value={until} onChange={setUntil} />
      <div className="flex gap-2">
        {changed ? (
          <Button look="solid" type="submit" disabled={hands.isPending}>
            Keep
          </Button>
        ) : (
          <Button
            aria-label={`take ${one.name} off`}
            disabled={alone || removeHands.isPending || one.id === 0}
            onClick={() =>
              removeHands.mutate(one.id, {
                onSuccess: () =>
                  tell({
                    say: `${one.name} is removed from the day.`,
                    back: () => hands.mutateAsync({ id: null, name: one.name, there: one.there }),
                  }),
              })
            }
          >
            ✕
          </Button>
        )}
      </div>
      {wrong ? (
        <div className="col-span-4">
          <Wrong>{wrong}</Wrong>
        </div>
      ) : null}
    </form>
  );
}

function Places({ day, when }: { day: Day; when: string }) {
  const here = useHere();
  const { room } = useDayEdits(here.slug, when);
  const now = day.room;
  const [places, setPlaces] = useState<Record<string, string>>(
    Object.fromEntries(PLACES.map(([key]) => [key, String(now[key])])),
  );
  const [ice, setIce] = useState(
    now.ice_g === null || now.ice_g === undefined ? "" : plain(now.ice_g / 1000),
  );
  const [made, setMade] = useState(String((now.ice_g_h ?? 0) / 1000));
  const [bowls, setBowls] = useState(now.bowls === null || now.bowls === undefined ? "" : String(now.bowls));
  const [wrong, setWrong] = useState<Record<string, string>>({});
  const save = () => {
    const whole = (text: string) => (/^\d{1,2}$/.test(text.trim()) ? Number(text) : null);
    const found: Record<string, string> = {};
    const body: Record<string, number | null> = {};
    for (const [key] of PLACES) {
      const many = whole(places[key] ?? "");
      if (many === null) found[key] = "Write a whole number.";
      else body[key] = many;
    }
    const kilos = ice.trim() === "" ? null : typedNumber(ice);
    const hourly = made.trim() === "" ? 0 : typedNumber(made);
    if (kilos !== null && !(kilos >= 0)) found.ice_g = "Write kilograms, or nothing for plenty.";
    if (!(hourly >= 0)) found.ice_g_h = "Write kilograms an hour.";
    if (bowls.trim() !== "" && whole(bowls) === null) found.bowls = "Write a whole number, or nothing.";
    setWrong(found);
    if (Object.keys(found).length) return;
    body.ice_g = kilos === null ? null : 1000 * kilos;
    body.ice_g_h = 1000 * hourly;
    body.bowls = bowls.trim() === "" ? null : Number(bowls);
    room.mutate(body, { onError: (error) => setWrong(fieldsOf(error)) });
  };
  return (
    <form
      className="mt-4 grid gap-3"
      onSubmit={(event) => {
        event.preventDefault();
        save();
      }}
    >
      <div className="grid grid-cols-2 gap-3 sm:grid-cols-3">
        {PLACES.map(([key, label]) => (
          <TextBox
            key={key}
            label={label}
            numeric
            value={places[key] ?? ""}
            error={wrong[key]}
            onChange={(text) => setPlaces({ ...places, [key]: text })}
          />
        ))}
        <TextBox label="Ice in the morning, kg" numeric value={ice} error={wrong.ice_g} onChange={setIce} />
        <TextBox label="Ice made, kg an hour" numeric value={made} error={wrong.ice_g_h} onChange={setMade} />
        <TextBox label="Churn bowls frozen" numeric value={bowls} error={wrong.bowls} onChange={setBowls} />
      </div>
      <p className="text-sm text-soft">
        Ice left empty is plenty. Bowls left empty: the churn cools by itself. A bowl freezes 12 h before it
        churns again.
      </p>
      {room.isError ? <Wrong>{room.error.message}</Wrong> : null}
      <div>
        <Button look="solid" type="submit" disabled={room.isPending}>
          {room.isPending ? "Planning …" : "Keep"}
        </Button>
      </div>
    </form>
  );
}
