import { useState } from "react";
import { Link } from "react-router";
import { useHere } from "../../api/here";
import { type ShelfPlace, type TubLine, useShelf } from "../../api/shelf";
import { Button } from "../../kit/Button";
import { Choice } from "../../kit/Choice";
import { Facts } from "../../kit/Facts";
import { Menu, MenuFile } from "../../kit/Menu";
import { Empty, Failed, Loading, Notice } from "../../kit/Notice";
import { useUnits } from "../../kit/system";
import { TextBox } from "../../kit/TextBox";
import { massText } from "../../kit/units";
import { Act, type Doing } from "./Act";
import { CoolingTile } from "./CoolingTile";
import { TubRow } from "./TubRow";
import { Undo, type Undone } from "./Undo";
import { Whites } from "./Whites";

const ALL = "all";
const PLACES: readonly { value: ShelfPlace | typeof ALL; shown: string }[] = [
  { value: ALL, shown: "all" },
  { value: "fridge", shown: "fridge" },
  { value: "frozen", shown: "frozen" },
  { value: "whites", shown: "whites" },
];

const SECTIONS: readonly { title: string; holds: (tub: TubLine) => boolean }[] = [
  { title: "Kept warm", holds: (tub) => tub.what !== "whites" && tub.place === "warm" },
  {
    title: "In the fridge, soonest first",
    holds: (tub) => tub.what !== "whites" && (tub.place === "fridge" || tub.place === "thawing"),
  },
  { title: "Frozen", holds: (tub) => tub.what !== "whites" && tub.place === "frozen" },
  { title: "Egg whites", holds: (tub) => tub.what === "whites" },
];

/** What is in fridge and freezer: how much is left, until when, for what. */
export function Shelf() {
  const here = useHere();
  const [place, setPlace] = useState<ShelfPlace | typeof ALL>(ALL);
  const [wanted, setWanted] = useState("");
  const [doing, setDoing] = useState<Doing | null>(null);
  const [undone, setUndone] = useState<Undone | null>(null);
  const shelf = useShelf(here.slug, place === ALL ? null : place, wanted.trim());
  const may = here.role !== "viewer";
  const first = shelf.data?.pages[0];
  const tubs = shelf.data?.pages.flatMap((page) => page.tubs) ?? [];
  const unlabelled = tubs.filter((tub) => !tub.labelled).map((tub) => tub.id);
  return (
    <>
      <div className="flex flex-wrap items-end justify-between gap-x-6 gap-y-3 border-b border-hair pb-3">
        <div className="min-w-0">
          <h1>The shelf</h1>
          {first ? <Sum totals={first.totals} cooling={first.cooling.length} /> : null}
        </div>
        <div className="flex flex-wrap gap-3">
          <LinkButton to="closing">Close the day</LinkButton>
          {unlabelled.length ? (
            <LinkButton to={`labels?${unlabelled.map((id) => `tub=${id}`).join("&")}`}>
              {unlabelled.length === 1 ? "Print one label" : `Print ${unlabelled.length} labels`}
            </LinkButton>
          ) : null}
          <a
            className="flex min-h-11 items-center rounded-solid border border-line px-4 no-underline"
            href={`/api/k/${here.slug}/day/record.pdf`}
            target="_blank"
            rel="noreferrer"
          >
            Today’s record
          </a>
          <Menu label="Files">
            <MenuFile href={`/api/k/${here.slug}/stock.csv`}>The shelf as a table (CSV)</MenuFile>
            <MenuFile href={`/api/k/${here.slug}/stock.json`}>The shelf with all movements (JSON)</MenuFile>
          </Menu>
        </div>
      </div>
      <div className="mt-3 flex flex-wrap items-end gap-x-6 gap-y-2">
        <Choice label="Show" options={PLACES} value={place} onChange={setPlace} />
        <div className="w-96 max-w-full">
          <TextBox
            label="Find a name, a number, a dish, “nuts” or “without egg”"
            value={wanted}
            onChange={setWanted}
          />
        </div>
      </div>
      {shelf.isPending ? <Loading what="the shelf" /> : null}
      {shelf.isError ? <Failed sentence={shelf.error.message} again={() => void shelf.refetch()} /> : null}
      {first && first.totals.past > 0 ? (
        <div className="mt-3">
          <Notice tone="wrong">
            {first.totals.past === 1
              ? "One tub is not to be used. Throw it away, or ask whoever answers for it."
              : `${first.totals.past} tubs are not to be used. Throw them away, or ask whoever answers for them.`}
          </Notice>
        </div>
      ) : null}
      {first?.cooling.length ? (
        <section aria-label="Cooling" className="mt-4 grid gap-x-10 gap-y-6 lg:grid-cols-2">
          {first.cooling.map((one) => (
            <CoolingTile key={one.batch_id} one={one} />
          ))}
        </section>
      ) : null}
      {first && tubs.length === 0 && first.cooling.length === 0 ? (
        <Empty title={wanted || place !== ALL ? "Nothing like that on the shelf" : "Nothing on the shelf"}>
          <p>
            What is kept of a batch comes here when the batch is closed, and what is put away to cool as soon
            as it is in the cold. <Link to="../stove">To the stove</Link>.
          </p>
        </Empty>
      ) : null}
      {first
        ? SECTIONS.map(({ title, holds }) => {
            const held = tubs.filter(holds);
            if (!held.length) return null;
            return (
              <section key={title} aria-label={title} className="mt-6">
                <h2 className="border-b border-iron pb-1">{title}</h2>
                <ul>
                  {held.map((tub) => (
                    <TubRow key={tub.id} tub={tub} may={may} onDo={setDoing} />
                  ))}
                </ul>
              </section>
            );
          })
        : null}
      {first && (place === ALL || place === "whites") && !wanted && first.totals.whites_g > 0 ? (
        <Whites />
      ) : null}
      {shelf.hasNextPage ? (
        <Button
          className="mt-4"
          disabled={shelf.isFetchingNextPage}
          onClick={() => void shelf.fetchNextPage()}
        >
          Show more
        </Button>
      ) : null}
      {doing ? (
        <Act
          key={`${doing.tub.id} ${doing.kind}`}
          doing={doing}
          onClose={() => setDoing(null)}
          onDone={(done) => {
            setDoing(null);
            setUndone(done);
          }}
        />
      ) : null}
      {undone ? <Undo key={undone.id} undone={undone} onGone={() => setUndone(null)} /> : null}
    </>
  );
}

function LinkButton({ to, children }: { to: string; children: React.ReactNode }) {
  return (
    <Link className="flex min-h-11 items-center rounded-solid border border-line px-4 no-underline" to={to}>
      {children}
    </Link>
  );
}

interface SumProps {
  totals: {
    fridge_g: number;
    frozen_g: number;
    warm_g: number;
    whites_g: number;
    past: number;
    today: number;
  };
  cooling: number;
}

function Sum({ totals, cooling }: SumProps) {
  const { system } = useUnits();
  return (
    <Facts
      className="text-soft"
      of={[
        `${massText(totals.fridge_g, system)} in the fridge`,
        totals.frozen_g > 0 && `${massText(totals.frozen_g, system)} frozen`,
        totals.warm_g > 0 && `${massText(totals.warm_g, system)} kept warm`,
        cooling > 0 && `${cooling} cooling`,
        totals.whites_g > 0 && `${massText(totals.whites_g, system)} of whites`,
        totals.today > 0
          ? `${totals.today} to be used today`
          : totals.past === 0 && "nothing is past its time",
      ]}
    />
  );
}
