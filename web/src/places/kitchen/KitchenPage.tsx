import { NavLink, useParams } from "react-router";
import { type Here, useHere } from "../../kit/here";
import { Notice } from "../../kit/Notice";
import { useUnits } from "../../kit/system";
import { temperature } from "../../kit/units";
import { Audit } from "./Audit";
import { Coolers, Vessels } from "./Coolers";
import { Demo } from "./Demo";
import { Devices } from "./Devices";
import { Hearth } from "./Hearth";
import { House } from "./House";
import { Own } from "./Own";
import { People } from "./People";
import { Prices } from "./Prices";
import { Rules } from "./Rules";
import { You } from "./You";

const PAGES: readonly { to: string; shown: string; of: (props: { here: Here }) => React.ReactNode }[] = [
  { to: "house", shown: "House", of: House },
  { to: "people", shown: "People", of: People },
  { to: "hobs", shown: "Hobs and pans", of: Hearth },
  { to: "cooling", shown: "Cooling", of: Coolers },
  { to: "vessels", shown: "Vessels", of: Vessels },
  { to: "probes", shown: "Probes and scales", of: Devices },
  { to: "prices", shown: "Prices", of: Prices },
  { to: "own", shown: "Our own ingredients", of: Own },
  { to: "rules", shown: "Rules", of: Rules },
  { to: "audit", shown: "Who did what", of: Audit },
  { to: "you", shown: "You", of: You },
];

/** The kitchen, a page for each thing about it. */
export function KitchenPage() {
  const here = useHere();
  const { system } = useUnits();
  const { page = "house" } = useParams();
  const shown = PAGES.filter((one) => one.to !== "audit" || here.role === "chef");
  const open = shown.find((one) => one.to === page);
  return (
    <>
      <h1 className="break-words">{here.name}</h1>
      <p className="mt-1 mb-4 text-soft">
        Water boils at {temperature(here.water_boils_c, system)} here. You are {here.role} in this kitchen.
      </p>
      <div className="grid items-start gap-x-10 gap-y-5 lg:grid-cols-[13rem_minmax(0,46rem)]">
        <nav
          aria-label="Pages of the kitchen"
          className="flex gap-x-1 overflow-x-auto border-b border-hair lg:grid lg:border-b-0"
        >
          {shown.map((one) => (
            <NavLink
              key={one.to}
              to={`/k/${here.slug}/kitchen/${one.to}`}
              className={`flex min-h-11 shrink-0 items-center border-b-4 px-3 no-underline lg:border-b-0 lg:border-l-4 ${one === open ? "border-yolk font-bold" : "border-transparent text-soft"}`}
            >
              {one.shown}
            </NavLink>
          ))}
        </nav>
        <div className="grid min-w-0 gap-8">
          {open ? (
            <open.of here={here} key={open.to} />
          ) : (
            <Notice tone="wrong">There is no such page.</Notice>
          )}
          {page === "house" && here.demo && here.role === "chef" ? <Demo here={here} /> : null}
        </div>
      </div>
    </>
  );
}
