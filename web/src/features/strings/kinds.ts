import type { ControllerModel } from "../../api/client";

export type ControllerKind = NonNullable<ControllerModel["kind"]>;

export const KINDS: Record<ControllerKind, string> = { mppt: "MPPT", pwm: "PWM", boost: "boost" };
