/** The stations in the order of the work, from what is wished; the number keys follow it, from 0. */
import { array } from "../features/array/station";
import { bank } from "../features/bank/station";
import { day } from "../features/day/station";
import { fitout } from "../features/fitout/station";
import { hull } from "../features/hull/station";
import { log } from "../features/log/station";
import { passage } from "../features/passage/station";
import { strings } from "../features/strings/station";
import { wish } from "../features/wish/station";
import { year } from "../features/year/station";
import type { Station } from "../kit/station";

export const STATIONS: Station[] = [wish, hull, bank, array, strings, day, year, passage, fitout, log];
