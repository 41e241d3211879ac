import { useParams } from "react-router";
import { type Here, useHere } from "../../api/here";
import { useSession } from "../../api/queries";
import { Notice } from "../../kit/Notice";
import { Pages } from "../../kit/Pages";
import { useUnits } from "../../kit/system";
import { temperature } from "../../kit/units";
import { Archives } from "./Archives";
import { Audit } from "./Audit";
import { Coolers, Vessels } from "./Coolers";
import { Demo } from "./Demo";
import { Devices } from "./Devices";
import { Hearth } from "./Hearth";
import { House } from "./House";
import { Learned } from "./Learned";
import { Own } from "./Own";
import { People } from "./People";
import { Prices } from "./Prices";
import { Rules } from "./Rules";
import { You } from "./You";

const PAGES: readonly { to: string; shown: string; of: (props: { here: Here }) => React.ReactNode }[] = [
  { to: "house", shown: "House", of: House },
  { to: "people", shown: "People", of: People },
  { to: "hobs", shown: "Hobs and pans", of: Hearth },
  { to: "learned", shown: "What was learned", of: Learned },
  { to: "cooling", shown: "Cooling", of: Coolers },
  { to: "vessels", shown: "Vessels", of: Vessels },
  { to: "probes", shown: "Probes and scales", of: Devices },
  { to: "prices", shown: "Prices", of: Prices },
  { to: "own", shown: "Our own ingredients", of: Own },
  { to: "rules", shown: "Rules", of: Rules },
  { to: "audit", shown: "Who did what", of: Audit },
  { to: "archive", shown: "Archive", of: Archives },
  { to: "you", shown: "You", of: You },
];

/** Pages that only a chef sees. */
const CHEFS = new Set(["audit", "archive"]);

/** Pages whose changes are refused to somebody who came in with a PIN. */
const ASKS_PASSWORD = new Set(["house", "people", "probes", "prices", "rules", "archive"]);

/** The kitchen, a page for each thing about it. */
export function KitchenPage() {
  const here = useHere();
  const session = useSession();
  const { system } = useUnits();
  const { page = "house" } = useParams();
  const shown = PAGES.filter((one) => !CHEFS.has(one.to) || here.role === "chef");
  const open = shown.find((one) => one.to === page);
  return (
    <>
      <h1 className="break-words">{here.name}</h1>
      <p className="mt-1 mb-4 text-soft">
        Water boils at {temperature(here.water_boils_c, system)} here. You are {here.role} in this kitchen.
      </p>
      <Pages
        label="Pages of the kitchen"
        pages={shown.map((one) => ({
          to: `/k/${here.slug}/kitchen/${one.to}`,
          shown: one.shown,
          here: one === open,
        }))}
      >
        {session.data?.person?.by_pin && ASKS_PASSWORD.has(page) ? (
          <Notice>You took over with your PIN. To change this page, log in with your password first.</Notice>
        ) : null}
        {open ? <open.of here={here} key={open.to} /> : <Notice tone="wrong">There is no such page.</Notice>}
        {page === "house" && here.demo && here.role === "chef" ? <Demo here={here} /> : null}
      </Pages>
    </>
  );
}
