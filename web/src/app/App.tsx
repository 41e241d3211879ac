import { lazy, Suspense } from "react";
import { Navigate, Route, Routes, useParams } from "react-router";
import { Problem } from "../api/problem";
import { useKitchens, useSession } from "../api/queries";
import { Failed, Loading } from "../kit/Notice";
import { ToldProvider } from "../kit/Told";
import { Book } from "../places/book/Book";
import { First, Join } from "../places/login/Joining";
import { LogIn } from "../places/login/LogIn";
import { NewKitchen } from "../places/login/NewKitchen";
import { Away } from "./Away";
import { Bare } from "./Bare";
import { Busy } from "./Busy";
import { PersonHabits } from "./PersonHabits";
import { Shell } from "./Shell";

const Bench = lazy(() => import("../places/bench/Bench").then((m) => ({ default: m.Bench })));
const Compare = lazy(() => import("../places/bench/Compare").then((m) => ({ default: m.Compare })));
const Import = lazy(() => import("../places/book/Import").then((m) => ({ default: m.Import })));
const OnTheStove = lazy(() => import("../places/stove/OnTheStove").then((m) => ({ default: m.OnTheStove })));
const BatchPage = lazy(() => import("../places/stove/BatchPage").then((m) => ({ default: m.BatchPage })));
const LiveStove = lazy(() =>
  import("../places/stove/live/LiveStove").then((m) => ({ default: m.LiveStove })),
);
const Log = lazy(() => import("../places/log/Log").then((m) => ({ default: m.Log })));
const Overlay = lazy(() => import("../places/log/Overlay").then((m) => ({ default: m.Overlay })));
const Months = lazy(() => import("../places/log/Months").then((m) => ({ default: m.Months })));
const Shelf = lazy(() => import("../places/shelf/Shelf").then((m) => ({ default: m.Shelf })));
const Labels = lazy(() => import("../places/shelf/Labels").then((m) => ({ default: m.Labels })));
const CloseDay = lazy(() => import("../places/shelf/CloseDay").then((m) => ({ default: m.CloseDay })));
const DayPage = lazy(() => import("../places/day/DayPage").then((m) => ({ default: m.DayPage })));
const DayLists = lazy(() => import("../places/day/Lists").then((m) => ({ default: m.Lists })));
const DayAfter = lazy(() => import("../places/day/After").then((m) => ({ default: m.After })));
const Trouble = lazy(() => import("../places/trouble/Trouble").then((m) => ({ default: m.Trouble })));
const Practice = lazy(() => import("../places/practice/Practice").then((m) => ({ default: m.Practice })));
const AttemptPage = lazy(() =>
  import("../places/practice/AttemptPage").then((m) => ({ default: m.AttemptPage })),
);
const SectionPage = lazy(() =>
  import("../places/practice/SectionPage").then((m) => ({ default: m.SectionPage })),
);
const PersonPage = lazy(() =>
  import("../places/practice/PersonPage").then((m) => ({ default: m.PersonPage })),
);
const SheetPage = lazy(() => import("../places/practice/SheetPage").then((m) => ({ default: m.SheetPage })));
const AssessPage = lazy(() =>
  import("../places/practice/AssessPage").then((m) => ({ default: m.AssessPage })),
);
const KitchenPage = lazy(() =>
  import("../places/kitchen/KitchenPage").then((m) => ({ default: m.KitchenPage })),
);

const WallPage = lazy(() => import("../places/wall/WallPage").then((m) => ({ default: m.WallPage })));
const Guide = lazy(() => import("../places/guide/Guide").then((m) => ({ default: m.Guide })));

export function App() {
  const session = useSession();
  const person = session.data?.person ?? undefined;
  return (
    <PersonHabits habits={person?.habits}>
      <Busy />
      <Away />
      <ToldProvider>
        <Routes>
          <Route path="/join/:token" element={<Join />} />
          <Route path="/wall" element={<Waiting>{<WallPage />}</Waiting>} />
          <Route path="*" element={<Inside />} />
        </Routes>
      </ToldProvider>
    </PersonHabits>
  );
}

/** Behind the door: whoever is logged in, in a kitchen. */
function Inside() {
  const session = useSession();
  const kitchens = useKitchens(Boolean(session.data?.person));
  // What was known stays so while the kitchen cannot be reached: a page in use is not taken away.
  if (!session.data)
    return (
      <Centre>
        {session.isError ? (
          <Failed title="Old Spoon" sentence={session.error.message} again={() => void session.refetch()} />
        ) : (
          <Loading title="Old Spoon" what="your kitchen" />
        )}
      </Centre>
    );
  if (!session.data.person) return session.data.first ? <First /> : <LogIn />;
  if (kitchens.error instanceof Problem && kitchens.error.status === 401) return <LogIn />;
  if (!kitchens.data)
    return (
      <Centre>
        {kitchens.isError ? (
          <Failed title="Old Spoon" sentence={kitchens.error.message} again={() => void kitchens.refetch()} />
        ) : (
          <Loading title="Old Spoon" what="your kitchen" />
        )}
      </Centre>
    );
  const first = kitchens.data[0];
  if (!first) return <NewKitchen another={false} />;
  return (
    <Routes>
      <Route path="/new-kitchen" element={<NewKitchen another />} />
      <Route path="/k/:kitchen" element={<Shell person={session.data.person} kitchens={kitchens.data} />}>
        <Route index element={<Navigate to="book" replace />} />
        <Route path="book" element={<Book />} />
        <Route path="book/new" element={<Waiting>{<Bench />}</Waiting>} />
        <Route path="book/import" element={<Waiting>{<Import />}</Waiting>} />
        <Route path="book/:formula" element={<Waiting>{<BenchOfFormula />}</Waiting>} />
        <Route path="book/compare" element={<Waiting>{<Compare />}</Waiting>} />
        <Route path="stove" element={<Waiting>{<OnTheStove />}</Waiting>} />
        <Route path="stove/:batch" element={<Waiting>{<BatchPage />}</Waiting>} />
        <Route path="shelf" element={<Waiting>{<Shelf />}</Waiting>} />
        <Route path="shelf/labels" element={<Waiting>{<Labels />}</Waiting>} />
        <Route path="shelf/closing" element={<Waiting>{<CloseDay />}</Waiting>} />
        <Route path="day" element={<Waiting>{<DayPage />}</Waiting>} />
        <Route path="day/:when" element={<Waiting>{<DayPage />}</Waiting>} />
        <Route path="day/:when/lists" element={<Waiting>{<DayLists />}</Waiting>} />
        <Route path="day/:when/after" element={<Waiting>{<DayAfter />}</Waiting>} />
        <Route path="trouble" element={<Waiting>{<Trouble />}</Waiting>} />
        <Route path="practice" element={<Waiting>{<Practice />}</Waiting>} />
        <Route path="practice/section" element={<Waiting>{<SectionPage />}</Waiting>} />
        <Route path="practice/people/:person" element={<Waiting>{<PersonPage />}</Waiting>} />
        <Route path="practice/assess" element={<Waiting>{<AssessPage />}</Waiting>} />
        <Route path="practice/sheets/:sheet" element={<Waiting>{<SheetPage />}</Waiting>} />
        <Route path="practice/:attempt" element={<Waiting>{<OneAttempt />}</Waiting>} />
        <Route path="log" element={<Waiting>{<Log />}</Waiting>} />
        <Route path="log/months" element={<Waiting>{<Months />}</Waiting>} />
        <Route path="log/overlay" element={<Waiting>{<Overlay />}</Waiting>} />
        <Route path="kitchen" element={<Waiting>{<KitchenPage />}</Waiting>} />
        <Route path="kitchen/:page" element={<Waiting>{<KitchenPage />}</Waiting>} />
        <Route path="guide" element={<Waiting>{<Guide />}</Waiting>} />
        <Route path="guide/:page" element={<Waiting>{<Guide />}</Waiting>} />
      </Route>
      <Route path="/k/:kitchen/stove/:batch/live" element={<Bare kitchens={kitchens.data} />}>
        <Route index element={<Waiting>{<LiveStove />}</Waiting>} />
      </Route>
      <Route path="*" element={<Navigate to={`/k/${first.slug}/book`} replace />} />
    </Routes>
  );
}

/** One Bench a formula: going to another starts with a clean one. */
function BenchOfFormula() {
  const { kitchen, formula } = useParams();
  return <Bench key={`${kitchen} ${formula}`} />;
}

/** One page an attempt: playing it again is another. */
function OneAttempt() {
  const { kitchen, attempt } = useParams();
  return <AttemptPage key={`${kitchen} ${attempt}`} />;
}

function Waiting({ children }: { children: React.ReactNode }) {
  return <Suspense fallback={<Loading title="Old Spoon" what="this page" />}>{children}</Suspense>;
}

function Centre({ children }: { children: React.ReactNode }) {
  return <main className="mx-auto max-w-xl px-5 py-16">{children}</main>;
}
