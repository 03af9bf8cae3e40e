import type { ComponentProps } from "react";

/** A word that does something. */
export const LinkButton = ({ className = "", ...props }: ComponentProps<"button">) => (
  <button
    type="button"
    className={className.startsWith("btn") ? className : `link ${className}`}
    {...props}
  />
);
