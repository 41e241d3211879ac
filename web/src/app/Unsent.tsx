import { useEffect, useState } from "react";
import { Link, useLocation } from "react-router";
import { unsent } from "../api/outbox";
import { Facts } from "../kit/Facts";
import { Notice } from "../kit/Notice";

const AGAIN_MS = 5000;

interface Props {
  kitchen: string;
  person: string;
}

/** Marks of this person that never left this device: opening their batch sends them. */
export function Unsent({ kitchen, person }: Props) {
  const { pathname } = useLocation();
  const [kept, setKept] = useState(() => unsent(kitchen, person));
  useEffect(() => {
    const look = () => setKept(unsent(kitchen, person));
    look();
    const timer = setInterval(look, AGAIN_MS);
    return () => clearInterval(timer);
  }, [kitchen, person]);
  const elsewhere = kept.filter((one) => !pathname.startsWith(`/k/${kitchen}/stove/${one.batch}`));
  if (elsewhere.length === 0) return null;
  return (
    <div className="mb-3 print:hidden">
      <Notice tone="wrong">
        Marks of yours are still on this device. They go out when you open their batch:
        <Facts
          of={elsewhere.map((one) => (
            <Link key={one.batch} className="underline" to={`/k/${kitchen}/stove/${one.batch}`}>
              {one.marks === 1 ? "one mark" : `${one.marks} marks`}
            </Link>
          ))}
        />
      </Notice>
    </div>
  );
}
