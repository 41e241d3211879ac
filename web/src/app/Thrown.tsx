import { useCallback, useState } from "react";
import { useLocation } from "react-router";
import { useBringBack } from "../api/people";
import { Button } from "../kit/Button";
import { Toast } from "../kit/Toast";

/** The demo was just thrown away: for a minute it can be brought back. */
export function Thrown() {
  const { state } = useLocation();
  const slug = (state as { thrown?: string } | null)?.thrown;
  const back = useBringBack();
  const [gone, setGone] = useState(false);
  const close = useCallback(() => setGone(true), []);
  if (!slug || gone || back.isSuccess) return null;
  return (
    <Toast say={back.error?.message ?? "The demo’s kitchen is thrown away."} onGone={close}>
      <Button disabled={back.isPending} onClick={() => back.mutate(slug)}>
        Undo
      </Button>
    </Toast>
  );
}
