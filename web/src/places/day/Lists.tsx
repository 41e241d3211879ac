import { useState } from "react";
import { Link, useParams } from "react-router";
import { type DayLists, useDay, useDayLists, useInHouse } from "../../api/day";
import { useHere } from "../../api/here";
import { Button } from "../../kit/Button";
import { Facts } from "../../kit/Facts";
import { Wrong } from "../../kit/Field";
import { fixed, ownFigures, plain } from "../../kit/habits";
import { listed } from "../../kit/listed";
import { Empty, Failed, Loading } from "../../kit/Notice";
import { useUnits } from "../../kit/system";
import { TextBox } from "../../kit/TextBox";
import { massText } from "../../kit/units";
import { dateText } from "./times";

type PullLine = DayLists["lists"]["pull"][number];

/** What to pull and buy, eggs, ice, bowls, labels and allergens of a day; prints on one sheet. */
export function Lists() {
  const here = useHere();
  const { when = "" } = useParams();
  const lists = useDayLists(here.slug, when);
  const day = useDay(here.slug, when);
  const { system } = useUnits();
  const found = lists.data;
  return (
    <>
      <div className="flex flex-wrap items-end justify-between gap-3 border-b border-hair pb-3">
        <div>
          <h1>{dateText(when)}: to pull and buy</h1>
          {found ? <p className="text-soft">{sum(found)}</p> : null}
        </div>
        <div className="flex gap-3 print:hidden">
          <Link
            className="flex min-h-11 items-center rounded-solid border border-line px-4 no-underline"
            to={`/k/${here.slug}/day/${when}`}
          >
            Back to the day
          </Link>
          <Button onClick={() => window.print()}>Print</Button>
        </div>
      </div>
      {lists.isPending ? <Loading what="the lists" /> : null}
      {lists.isError ? (
        day.data && !day.data.there ? (
          <Empty title="Nothing is wanted on this day yet">
            <p>The lists follow from what is wanted.</p>
          </Empty>
        ) : (
          <Failed sentence={lists.error.message} again={() => void lists.refetch()} />
        )
      ) : null}
      {found ? (
        <div className="mt-4 grid gap-x-12 gap-y-6 lg:grid-cols-[3fr_2fr] print:block">
          <section aria-label="Pull and buy">
            <h2 className="border-b border-iron pb-1">Pull and buy</h2>
            {found.lists.pull.length === 0 ? (
              <p className="py-3 text-soft">
                Nothing is left to weigh: it is on the shelf, or weighed already.
              </p>
            ) : (
              <ul>
                {found.lists.pull.map((one) => (
                  <PullRow key={one.ingredient} one={one} lists={found} may={here.role !== "viewer"} />
                ))}
              </ul>
            )}
            {found.lists.cost !== null && found.lists.pull.length ? (
              <p className="mt-2">
                What is to be bought costs{" "}
                <span className="figure">
                  {fixed(found.lists.cost, 2)} {found.currency}
                </span>
                .
              </p>
            ) : null}
          </section>
          <div className="grid content-start gap-6 print:mt-4 print:block">
            {found.lists.eggs ? <Eggs eggs={found.lists.eggs} /> : null}
            <section aria-label="Ice">
              <h2 className="border-b border-iron pb-1">Ice and bowls</h2>
              <Facts
                className="py-2"
                of={[
                  `${massText(found.lists.ice_g, system)} of ice in all`,
                  found.ice_to_make_g > 0
                    ? `${massText(found.ice_to_make_g, system)} still to be made`
                    : found.lists.ice_house_g !== null && "it is there",
                ]}
              />
              {found.bowl_say ? <p className="font-bold">{ownFigures(found.bowl_say)}</p> : null}
            </section>
            <section aria-label="Labels">
              <h2 className="border-b border-iron pb-1">Labels to print</h2>
              <ul>
                {found.lists.labels.map((one) => (
                  <li key={one.job} className="border-b border-hair py-1.5">
                    <Facts of={[one.name, one.days === 1 ? "keeps one day" : `keeps ${one.days} days`]} />
                    <Facts
                      className="text-sm text-soft"
                      of={[
                        one.allergens.length
                          ? `contains ${listed(one.allergens)}`
                          : "contains nothing declared",
                        one.unheated.length > 0 && `not heated: ${listed(one.unheated)}`,
                      ]}
                    />
                  </li>
                ))}
              </ul>
              <p className="mt-1 text-sm text-soft">
                They are printed when a batch is put away, with its number and its use-by.
              </p>
            </section>
            <section aria-label="Allergens">
              <h2 className="border-b border-iron pb-1">Allergens of the day</h2>
              <dl className="grid grid-cols-[auto_1fr] gap-x-5 gap-y-1 py-2">
                {Object.entries(found.lists.allergens).map(([word, names]) => (
                  <div key={word} className="contents">
                    <dt className="font-bold">{word}</dt>
                    <dd>{listed(names)}</dd>
                  </div>
                ))}
              </dl>
              <p className="text-sm text-soft">
                As declared with the ingredients; what is printed on the packet comes first.
              </p>
            </section>
          </div>
        </div>
      ) : null}
    </>
  );
}

function sum(found: DayLists): string {
  const missing = found.lists.pull.filter((one) => one.missing_g > 0).length;
  return missing
    ? `${missing} of ${found.lists.pull.length} things are not in the house as far as anybody said.`
    : "Everything is in the house.";
}

function PullRow({ one, lists, may }: { one: PullLine; lists: DayLists; may: boolean }) {
  const here = useHere();
  const { system } = useUnits();
  const said = lists.house.find((row) => row.ingredient === one.ingredient);
  const [amount, setAmount] = useState(said?.amount ?? "");
  const house = useInHouse(here.slug);
  return (
    <li className="grid grid-cols-[6rem_1fr_auto] items-center gap-x-4 gap-y-1 border-b border-hair py-1.5">
      <span className="figure text-[1.15rem]">{massText(one.grams, system)}</span>
      <span className="min-w-0">
        <span className="font-bold break-words">{one.name}</span>
        <Facts
          className="text-sm text-soft"
          of={[
            one.missing_g > 0 ? `${massText(one.missing_g, system)} missing` : "it is there",
            one.packages ? `${one.packages} × ${one.per}` : null,
            one.cost ? `${fixed(one.cost, 2)} ${lists.currency}` : null,
            ...one.batches,
          ]}
        />
        {house.isError ? <Wrong>{house.error.message}</Wrong> : null}
      </span>
      {may ? (
        <form
          className="flex items-center gap-2 print:hidden"
          onSubmit={(event) => {
            event.preventDefault();
            house.mutate({ ingredient: one.ingredient, amount: amount.trim() });
          }}
        >
          <TextBox
            label={`${one.name} in the house`}
            hideLabel
            className="w-24"
            value={amount}
            onChange={setAmount}
          />
          <Button type="submit" disabled={house.isPending || amount.trim() === (said?.amount ?? "")}>
            is there
          </Button>
        </form>
      ) : null}
    </li>
  );
}

function Eggs({ eggs }: { eggs: NonNullable<DayLists["lists"]["eggs"]> }) {
  const { system } = useUnits();
  const pieces = (value: number) => plain(Math.round(10 * value) / 10);
  return (
    <section aria-label="Eggs">
      <h2 className="border-b border-iron pb-1">Eggs, {eggs.name}</h2>
      <p className="figure py-2 text-[1.6rem]">{eggs.to_break} to break</p>
      <Facts
        of={[
          `${pieces(eggs.yolks)} yolks`,
          eggs.whole ? `${pieces(eggs.whole)} whole` : null,
          eggs.whites ? `${pieces(eggs.whites)} whites` : null,
        ]}
      />
      {eggs.whites_left_g > 0 ? <p>{massText(eggs.whites_left_g, system)} of white are left over.</p> : null}
    </section>
  );
}
