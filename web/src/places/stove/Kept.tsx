import { Notice } from "../../kit/Notice";

/** That marks wait on this device, and for what. */
export function Kept({ count, barred }: { count: number; barred: string | null }) {
  const marks = count === 1 ? "One mark is" : `${count} marks are`;
  return (
    <Notice tone="wrong">
      {barred === null
        ? `No connection. ${marks} kept on this device and will go out when it is back.`
        : `${barred} ${marks} kept on this device for you, and will go out when you may send ${count === 1 ? "it" : "them"}.`}
    </Notice>
  );
}
