import { useEffect, useRef } from "react";
import { NavLink, useLocation, useNavigate, useParams } from "react-router";
import { Menu, MenuAction } from "../kit/Menu";

export const PLACES = [
  { to: "day", shown: "Day" },
  { to: "book", shown: "Book" },
  { to: "stove", shown: "Stove" },
  { to: "shelf", shown: "Shelf" },
  { to: "trouble", shown: "Trouble" },
  { to: "log", shown: "Log" },
  { to: "practice", shown: "Practice" },
  { to: "kitchen", shown: "Kitchen" },
] as const;

type Place = (typeof PLACES)[number];

/** At the thumb of a phone there is room for five. */
const AT_THE_THUMB = ["day", "stove", "book", "shelf", "trouble"] as const satisfies readonly Place["to"][];
const MORE = PLACES.filter((one) => !AT_THE_THUMB.some((to) => to === one.to));

/** All places in a row, where there is room for them. */
export function PlacesAcross() {
  const { kitchen } = useParams();
  const { pathname } = useLocation();
  const tabs = useRef<HTMLElement>(null);
  // biome-ignore lint/correctness/useExhaustiveDependencies: where they are wider than the screen, the one that is open comes into sight
  useEffect(() => {
    tabs.current
      ?.querySelector('[aria-current="page"]')
      ?.scrollIntoView({ block: "nearest", inline: "center" });
  }, [pathname]);
  return (
    <nav
      ref={tabs}
      aria-label="Places"
      className="flex min-w-0 flex-1 gap-x-1 overflow-x-auto [scrollbar-width:none] max-md:hidden across:flex!"
    >
      {PLACES.map((place) => (
        <NavLink
          key={place.to}
          to={addressOf(place.to, kitchen, pathname)}
          className={({ isActive }) =>
            `flex min-h-11 shrink-0 items-center border-b-4 px-3 no-underline ${isActive ? "border-yolk font-bold" : "border-transparent text-soft"}`
          }
        >
          {place.shown}
        </NavLink>
      ))}
    </nav>
  );
}

/** On a phone held upright the five that are wanted in the middle of the work, at the thumb, and the rest under More. */
export function PlacesAtTheThumb() {
  const { kitchen } = useParams();
  const { pathname } = useLocation();
  const navigate = useNavigate();
  const open = MORE.find((one) => pathname.startsWith(`/k/${kitchen}/${one.to}`));
  return (
    <nav
      aria-label="Places"
      className="fixed inset-x-0 bottom-0 z-30 grid h-(--places) grid-cols-6 border-t border-iron bg-paper pb-[env(safe-area-inset-bottom)] md:hidden across:hidden! print:hidden"
    >
      {AT_THE_THUMB.map((to) => (
        <NavLink
          key={to}
          to={addressOf(to, kitchen, pathname)}
          className={({ isActive }) =>
            `flex min-w-0 items-center justify-center border-t-4 text-sm no-underline ${isActive ? "border-yolk font-bold" : "border-transparent"}`
          }
        >
          {PLACES.find((one) => one.to === to)?.shown}
        </NavLink>
      ))}
      <Menu
        label={open?.shown ?? "More"}
        look={`border-t-4 text-sm ${open ? "border-yolk font-bold" : "border-transparent"}`}
      >
        {MORE.map((one) => (
          <MenuAction key={one.to} onSelect={() => navigate(`/k/${kitchen}/${one.to}`)}>
            {one.shown}
          </MenuAction>
        ))}
      </Menu>
    </nav>
  );
}

/** Where a place is; Trouble with the batch or the formula that one is at. */
export function addressOf(to: Place["to"], kitchen: string | undefined, pathname: string): string {
  if (to !== "trouble") return `/k/${kitchen}/${to}`;
  const [, place, id] = pathname.match(/\/(stove|book)\/(\d+)/) ?? [];
  const about = id ? `?${place === "stove" ? "batch" : "formula"}=${id}` : "";
  return `/k/${kitchen}/trouble${about}`;
}
