import type { ComponentProps } from "react";

type Look = "solid" | "quiet" | "danger" | "iron";

const LOOKS: Record<Look, string> = {
  solid: "bg-yolk text-iron border-yolk font-bold",
  iron: "bg-iron text-paper border-iron font-bold",
  quiet: "bg-transparent text-iron border-line",
  danger: "bg-paper text-brick border-brick font-bold",
};

interface Props extends ComponentProps<"button"> {
  look?: Look;
  large?: boolean;
}

/** A button: solid for the one thing to do next, quiet for the rest. */
export function Button({ look = "quiet", large = false, className = "", type = "button", ...rest }: Props) {
  const size = large ? "min-h-[72px] px-6 text-xl" : "min-h-11 px-4";
  return (
    <button
      type={type}
      className={`rounded-solid border ${size} ${LOOKS[look]} disabled:opacity-55 ${className}`}
      {...rest}
    />
  );
}
