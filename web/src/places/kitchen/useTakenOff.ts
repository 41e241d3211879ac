import { usePutBack } from "../../api/kitchen";
import { useTold } from "../../kit/Told";

/** What to do once something was taken off a list: tell it, so that it can be put back for a minute. */
export function useTakenOff(kitchen: string) {
  const putBack = usePutBack(kitchen);
  const { tell } = useTold();
  return {
    onSuccess: (off: { key: number; name: string }) =>
      tell({ say: `${off.name} is off the list.`, back: () => putBack(off.key) }),
  };
}
