import { Search, UserRound } from "lucide-react";
import { lazy, Suspense, useState } from "react";
import { NavLink, Outlet, useLocation, useNavigate, useParams } from "react-router";
import { useKitchenEvents } from "../api/live";
import { type Kitchen, useLogOut } from "../api/queries";
import { Button } from "../kit/Button";
import { useKeys } from "../kit/keys";
import { Menu, MenuAction, MenuBreak } from "../kit/Menu";
import { Loading, Notice } from "../kit/Notice";
import { Sheet } from "../kit/Sheet";
import { useUnits } from "../kit/system";
import { setZone } from "../kit/when";
import { ChangeHands } from "./ChangeHands";
import { addressOf, PLACES, PlacesAcross, PlacesAtTheThumb } from "./Places";
import { Unsent } from "./Unsent";

const Help = lazy(() => import("./Help").then((m) => ({ default: m.Help })));

const SearchEverything = lazy(() =>
  import("./SearchEverything").then((m) => ({ default: m.SearchEverything })),
);

const SEARCH = "Search everything";

interface Props {
  person: { username: string; title: string };
  kitchens: readonly Kitchen[];
}

/** The top strip, and below it the place one is in. */
export function Shell({ person, kitchens }: Props) {
  const { kitchen } = useParams();
  const here = kitchens.find((one) => one.slug === kitchen);
  useKitchenEvents(here?.slug);
  // Before anything below is drawn: its times are the kitchen's.
  if (here) setZone(here.zone);
  const [open, setOpen] = useState<"help" | "hands" | "search" | null>(null);
  const close = () => setOpen(null);
  const { system, toggle } = useUnits();
  const navigate = useNavigate();
  const { pathname } = useLocation();
  const logOut = useLogOut();
  useKeys([
    { press: "u", does: "°C and grams, or °F and ounces", run: toggle },
    { press: "?", does: "help with this page", run: () => setOpen("help") },
    { press: "/", does: SEARCH, run: () => setOpen("search") },
    { press: "ctrl+k", does: SEARCH, run: () => setOpen("search") },
    { press: "d", does: "to the Day", run: () => navigate(`/k/${kitchen}/day`) },
    { press: "b", does: "to the Book", run: () => navigate(`/k/${kitchen}/book`) },
    { press: "s", does: "to the Stove", run: () => navigate(`/k/${kitchen}/stove`) },
    { press: "f", does: "to the Shelf", run: () => navigate(`/k/${kitchen}/shelf`) },
    { press: "w", does: "something is wrong", run: () => navigate(addressOf("trouble", kitchen, pathname)) },
    { press: "p", does: "to Practice", run: () => navigate(`/k/${kitchen}/practice`) },
    { press: "l", does: "to the Log", run: () => navigate(`/k/${kitchen}/log`) },
  ]);
  return (
    <div className="min-h-screen max-md:[--places:calc(3.5rem+env(safe-area-inset-bottom))] across:[--places:0px]!">
      <a
        href="#main"
        className="sr-only focus:not-sr-only focus:absolute focus:z-50 focus:bg-paper focus:p-3"
      >
        Skip to the page
      </a>
      <header className="print:hidden border-b border-hair print:hidden">
        <div className="mx-auto flex max-w-[1880px] items-center gap-x-3 px-4 sm:px-7 md:gap-x-4 md:py-1.5">
          <NavLink to="book" className="flex min-h-11 shrink-0 items-center gap-3 no-underline">
            <img src="/spoon.svg" alt="" width="30" height="34" />
            <span className="figure text-[1.35rem] max-xl:sr-only">Old Spoon</span>
          </NavLink>
          <PlacesAcross />
          <div className="ml-auto flex shrink-0 items-center gap-2">
            <Button className="max-lg:hidden" onClick={toggle} title="Change units">
              {system === "metric" ? "°C · g" : "°F · oz"}
            </Button>
            <Button onClick={() => setOpen("search")} aria-label={SEARCH}>
              <Search size={20} aria-hidden="true" />
            </Button>
            <Button className="max-lg:hidden" onClick={() => setOpen("help")} aria-label="? help">
              ?
            </Button>
            <Menu label={<WhoIsIn title={person.title} />}>
              <MenuAction onSelect={toggle}>
                {system === "metric" ? "°F and ounces" : "°C and grams"}
              </MenuAction>
              <MenuAction onSelect={() => setOpen("help")}>Help and keys</MenuAction>
              <MenuAction onSelect={() => navigate(`/k/${kitchen}/guide`)}>The guide</MenuAction>
              {kitchens
                .filter((one) => one.slug !== kitchen)
                .map((one) => (
                  <MenuAction key={one.slug} onSelect={() => navigate(`/k/${one.slug}/book`)}>
                    To {one.name}
                  </MenuAction>
                ))}
              <MenuBreak />
              <MenuAction onSelect={() => navigate(`/k/${kitchen}/kitchen/you`)}>
                You, and your habits
              </MenuAction>
              <MenuAction onSelect={() => setOpen("hands")}>Change hands</MenuAction>
              <MenuAction onSelect={() => logOut.mutate()}>Log out {person.title}</MenuAction>
            </Menu>
          </div>
        </div>
      </header>
      <main id="main" className="mx-auto max-w-[1880px] px-4 pt-4 pb-16 max-md:pb-32 sm:px-7" key={kitchen}>
        {here ? <Unsent kitchen={here.slug} person={person.username} /> : null}
        {here ? (
          <Outlet context={here} />
        ) : (
          <Notice tone="wrong">There is no such kitchen, or it is not yours to enter.</Notice>
        )}
      </main>
      <PlacesAtTheThumb />
      <Sheet open={open === "help"} onClose={close} title="Help" wide>
        <Suspense fallback={<Loading what="the guide" />}>
          <Help onClose={close} />
        </Suspense>
      </Sheet>
      <Sheet open={open === "search"} onClose={close} title={SEARCH} wide>
        <Suspense fallback={<Loading what="everything" />}>
          {here ? <SearchEverything here={here} places={PLACES} onClose={close} /> : null}
        </Suspense>
      </Sheet>
      <Sheet open={open === "hands"} onClose={close} title="Change hands">
        {here ? <ChangeHands kitchen={here.slug} /> : null}
      </Sheet>
    </div>
  );
}

function WhoIsIn({ title }: { title: string }) {
  return (
    <>
      <span className="max-w-36 truncate max-md:sr-only">{title}</span>
      <UserRound size={20} aria-hidden="true" className="md:hidden" />
    </>
  );
}
