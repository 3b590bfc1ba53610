import type { ButtonHTMLAttributes } from "react";

interface Props extends ButtonHTMLAttributes<HTMLButtonElement> {
  weight?: "plain" | "main";
}

const LOOK = {
  plain: "border border-line bg-sheet text-ink hover:border-soft",
  main: "border border-teal bg-teal text-on-teal font-medium",
};

export function Button({ weight = "plain", className = "", type = "button", ...rest }: Props) {
  return (
    <button
      type={type}
      className={`target min-h-10 rounded-md px-3 disabled:opacity-50 ${LOOK[weight]} ${className}`}
      {...rest}
    />
  );
}
