import type { ComponentProps } from "react";

type Line = Omit<ComponentProps<"line">, "x" | "y">;

/** A line from left to right. */
export const Level = ({ y, ...props }: Line & { y: number }) => <line y1={y} y2={y} {...props} />;

/** A line from top to bottom. */
export const Upright = ({ x, ...props }: Line & { x: number }) => <line x1={x} x2={x} {...props} />;
