import { useEffect, useRef } from "react";
import { useSearchParams } from "react-router";
import { useHere } from "../../api/here";
import { type Draft, useFamilyName, usePatterns } from "../../api/queries";
import { SelectBox } from "../../kit/SelectBox";

/** A new formula begins as a plain one of its family, or as it is written from nothing. */
export function Patterns({ onTake }: { onTake: (draft: Draft) => void }) {
  const here = useHere();
  const named = useFamilyName();
  const patterns = usePatterns(here.slug);
  const [search] = useSearchParams();
  const wanted = search.get("pattern");
  const taken = useRef(false);
  useEffect(() => {
    const pattern = patterns.data?.find((one) => one.family === wanted);
    if (!pattern || taken.current) return;
    taken.current = true;
    onTake(pattern);
  }, [patterns.data, wanted, onTake]);
  return (
    <SelectBox
      label="Begin with a plain"
      none="anglaise, or choose another …"
      options={(patterns.data ?? []).map((one) => ({
        value: one.family,
        shown: named(one.family),
      }))}
      value=""
      onChange={(family) => {
        const pattern = patterns.data?.find((one) => one.family === family);
        if (pattern) onTake(pattern);
      }}
    />
  );
}
