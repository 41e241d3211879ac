import { Outlet, useParams } from "react-router";
import { useKitchenEvents } from "../api/live";
import type { Kitchen } from "../api/queries";
import { Notice } from "../kit/Notice";
import { setZone } from "../kit/when";

/** A place with the whole screen to itself: the live stove has no top strip. */
export function Bare({ kitchens }: { kitchens: readonly Kitchen[] }) {
  const { kitchen, batch } = useParams();
  const here = kitchens.find((one) => one.slug === kitchen);
  if (here) setZone(here.zone);
  useKitchenEvents(here?.slug, Number(batch) || undefined);
  return (
    <main id="main">
      {here ? (
        <Outlet context={here} />
      ) : (
        <Notice tone="wrong">There is no such kitchen, or it is not yours to enter.</Notice>
      )}
    </main>
  );
}
