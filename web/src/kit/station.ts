import type { ComponentType } from "react";

/** A station of the work: its address, its name on the course line, and its page. */
export interface Station {
  key: string; // in addresses, and of the server's findings
  label: string;
  tells: string; // above its findings
  Page: ComponentType;
}
