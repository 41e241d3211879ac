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
import { type KitchenPageName, kitchenPages } from "./pageNames";
import { Rules } from "./Rules";
import { You } from "./You";

const OF: Record<KitchenPageName, (props: { here: Here }) => React.ReactNode> = {
  house: House,
  people: People,
  hobs: Hearth,
  learned: Learned,
  cooling: Coolers,
  vessels: Vessels,
  probes: Devices,
  prices: Prices,
  own: Own,
  rules: Rules,
  audit: Audit,
  archive: Archives,
  you: You,
};

/** Pages whose changes are refused to somebody who came in with a PIN. */
const ASKS_PASSWORD = new Set(["house", "people", "probes", "prices", "rules", "archive"]);

/** The kitchen, a page for each thing about it. */
export function KitchenPage() {
  const here = useHere();
  const session = useSession();
  const { system } = useUnits();
  const { page = "house" } = useParams();
  const shown = kitchenPages(here.role);
  const open = shown.find((one) => one.to === page);
  const Opened = open && OF[open.to];
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
        {Opened ? <Opened here={here} key={page} /> : <Notice tone="wrong">There is no such page.</Notice>}
        {page === "house" && here.demo && here.role === "chef" ? <Demo here={here} /> : null}
      </Pages>
    </>
  );
}
