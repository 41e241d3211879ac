import { useEffect, useRef, useState } from "react";
import { NavLink, Outlet, useLocation, useNavigate, useParams } from "react-router";
import { useKitchenEvents } from "../api/live";
import { type Kitchen, useLogOut } from "../api/queries";
import { Button } from "../kit/Button";
import { useAllKeys, useKeys } from "../kit/keys";
import { Menu, MenuAction, MenuBreak } from "../kit/Menu";
import { Notice } from "../kit/Notice";
import { Sheet } from "../kit/Sheet";
import { useUnits } from "../kit/system";
import { setZone } from "../kit/when";
import { Unsent } from "./Unsent";

const PLACES = [
  { to: "day", shown: "Day" },
  { to: "book", shown: "Book" },
  { to: "stove", shown: "Stove" },
  { to: "shelf", shown: "Shelf" },
  { to: "trouble", shown: "Trouble" },
  { to: "log", shown: "Log" },
  { to: "practice", shown: "Practice" },
  { to: "kitchen", shown: "Kitchen" },
] as const;

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
  const [keysOpen, setKeysOpen] = useState(false);
  const { system, toggle } = useUnits();
  const navigate = useNavigate();
  const { pathname } = useLocation();
  const logOut = useLogOut();
  const tabs = useRef<HTMLElement>(null);
  // biome-ignore lint/correctness/useExhaustiveDependencies: on a phone the tab one is at comes into sight
  useEffect(() => {
    tabs.current
      ?.querySelector('[aria-current="page"]')
      ?.scrollIntoView({ block: "nearest", inline: "center" });
  }, [pathname]);
  useKeys([
    { press: "u", does: "°C and grams, or °F and ounces", run: toggle },
    { press: "?", does: "show these keys", run: () => setKeysOpen(true) },
    { press: "d", does: "to the Day", run: () => navigate(`/k/${kitchen}/day`) },
    { press: "b", does: "to the Book", run: () => navigate(`/k/${kitchen}/book`) },
    { press: "s", does: "to the Stove", run: () => navigate(`/k/${kitchen}/stove`) },
    { press: "f", does: "to the Shelf", run: () => navigate(`/k/${kitchen}/shelf`) },
    { press: "w", does: "something is wrong", run: () => navigate(troubleAt(kitchen, pathname)) },
    { press: "p", does: "to Practice", run: () => navigate(`/k/${kitchen}/practice`) },
    { press: "l", does: "to the Log", run: () => navigate(`/k/${kitchen}/log`) },
  ]);
  return (
    <div className="min-h-screen">
      <a
        href="#main"
        className="sr-only focus:not-sr-only focus:absolute focus:z-50 focus:bg-paper focus:p-3"
      >
        Skip to the page
      </a>
      <header className="print:hidden border-b border-hair print:hidden">
        <div className="mx-auto flex max-w-[1880px] items-center gap-x-3 px-4 sm:px-7 md:flex-wrap md:gap-x-5 md:gap-y-1 md:py-1.5">
          <NavLink to="book" className="flex min-h-11 shrink-0 items-center gap-3 no-underline">
            <img src="/spoon.svg" alt="" width="30" height="34" />
            <span className="figure text-[1.35rem] max-md:sr-only">Old Spoon</span>
          </NavLink>
          <nav
            ref={tabs}
            aria-label="Places"
            className="flex min-w-0 gap-x-1 max-md:flex-1 max-md:overflow-x-auto max-md:[scrollbar-width:none] md:flex-wrap"
          >
            {PLACES.map((place) => (
              <NavLink
                key={place.to}
                to={place.to === "trouble" ? troubleAt(kitchen, pathname) : place.to}
                className={({ isActive }) =>
                  `flex min-h-11 shrink-0 items-center border-b-4 px-3 no-underline ${isActive ? "border-yolk font-bold" : "border-transparent text-soft"}`
                }
              >
                {place.shown}
              </NavLink>
            ))}
          </nav>
          <div className="md:hidden">
            <Menu label="Menu">
              <MenuAction onSelect={toggle}>
                {system === "metric" ? "°F and ounces" : "°C and grams"}
              </MenuAction>
              <MenuAction onSelect={() => setKeysOpen(true)}>Keys</MenuAction>
              {kitchens.length > 1
                ? kitchens
                    .filter((one) => one.slug !== kitchen)
                    .map((one) => (
                      <MenuAction key={one.slug} onSelect={() => navigate(`/k/${one.slug}/book`)}>
                        To {one.name}
                      </MenuAction>
                    ))
                : null}
              <MenuBreak />
              <MenuAction onSelect={() => logOut.mutate()}>{person.title} · log out</MenuAction>
            </Menu>
          </div>
          <div className="ml-auto hidden flex-wrap items-center gap-2 md:flex">
            <Button onClick={toggle} title="Change units">
              {system === "metric" ? "°C · g" : "°F · oz"}
            </Button>
            <Button onClick={() => setKeysOpen(true)} aria-label="? keys">
              ?
            </Button>
            {kitchens.length > 1 ? (
              <select
                aria-label="Kitchen"
                value={kitchen}
                onChange={(event) => navigate(`/k/${event.target.value}/book`)}
              >
                {kitchens.map((one) => (
                  <option key={one.slug} value={one.slug}>
                    {one.name}
                  </option>
                ))}
              </select>
            ) : null}
            <Button onClick={() => logOut.mutate()} title={`Log out ${person.title}`}>
              {person.title} · log out
            </Button>
          </div>
        </div>
      </header>
      <main id="main" className="mx-auto max-w-[1880px] px-4 pt-4 pb-16 sm:px-7" key={kitchen}>
        {here ? <Unsent kitchen={here.slug} person={person.username} /> : null}
        {here ? (
          <Outlet context={here} />
        ) : (
          <Notice tone="wrong">There is no such kitchen, or it is not yours to enter.</Notice>
        )}
      </main>
      <Sheet open={keysOpen} onClose={() => setKeysOpen(false)} title="Keys">
        <KeyList />
        <Button className="mt-4" onClick={() => setKeysOpen(false)}>
          Close
        </Button>
      </Sheet>
    </div>
  );
}

/** Trouble, with the batch or the formula that one is at. */
function troubleAt(kitchen: string | undefined, pathname: string): string {
  const [, place, id] = pathname.match(/\/(stove|book)\/(\d+)/) ?? [];
  const about = id ? `?${place === "stove" ? "batch" : "formula"}=${id}` : "";
  return `/k/${kitchen}/trouble${about}`;
}

function KeyList() {
  const keys = useAllKeys();
  return (
    <dl className="grid grid-cols-[auto_1fr] gap-x-5 gap-y-1">
      {keys.map((key) => (
        <div key={key.press} className="contents">
          <dt>
            <kbd className="border border-line px-2 py-0.5">{key.press === " " ? "space" : key.press}</kbd>
          </dt>
          <dd>{key.does}</dd>
        </div>
      ))}
    </dl>
  );
}
