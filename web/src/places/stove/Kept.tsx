import { Notice } from "../../kit/Notice";

/** That marks are kept on this device while the server cannot be reached. */
export function Kept({ count }: { count: number }) {
  return (
    <Notice tone="wrong">
      No connection. {count === 1 ? "One mark is" : `${count} marks are`} kept on this device and will go out
      when it is back.
    </Notice>
  );
}
