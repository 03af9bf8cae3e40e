import createClient from "openapi-fetch";
import type { components, paths } from "./schema";

type Schemas = components["schemas"];
export type BoatDesign = Schemas["BoatDesign"];
export type BoatRow = Schemas["BoatRow"];
export type VariantOut = Schemas["VariantOut"];
export type ConflictOut = Schemas["ConflictOut"];
export type Problem = Schemas["Problem"];
export type Quantity = Schemas["Quantity"];
export type Sentence = Schemas["Sentence"];
export type Why = Schemas["Why"];
export type RailCell = Schemas["RailCell"];
export type Answers = Schemas["Answers"];
export type Finding = Schemas["Finding"];
export type HullPicture = Schemas["HullPicture"];
export type DayPicture = Schemas["DayPicture"];
export type RangePicture = Schemas["RangePicture"];
export type MatchPicture = Schemas["MatchPicture"];
export type HelmCard = Schemas["HelmCard"];
export type BankPicture = Schemas["BankPicture"];
export type ArrayPicture = Schemas["ArrayPicture"];
export type ArrayAdvice = Schemas["ArrayAdvice"];
export type HingeAdvice = Schemas["HingeAdvice"];
export type Burden = Schemas["Burden"];
export type NextPanels = Schemas["NextPanels"];
export type ThroughYear = Schemas["ThroughYear"];
export type StringsPicture = Schemas["StringsPicture"];
export type DaysAhead = Schemas["DaysAhead"];
export type WholeSeason = Schemas["WholeSeason"];
export type Pace = Schemas["Pace"];
export type Forecast = Schemas["Forecast"];
export type ClimateYear = Schemas["ClimateYear"];
export type Comparison = Schemas["Comparison"];
export type UpgradeSteps = Schemas["UpgradeSteps"];
export type RevisionRow = Schemas["RevisionRow"];
export type WiringChoice = Schemas["Choice"];
export type ControllerModel = Schemas["ControllerModel"];
export type BoxYear = Schemas["BoxYear"];
export type PanelModel = Schemas["PanelModel"];
export type ReadModules = Schemas["ReadModules"];
export type BoatState = Schemas["BoatState"];
export type Tank = Schemas["Tank"];
export type SizingAsk = Schemas["SizingAsk"];
export type LoadPreset = Schemas["LoadPreset"];
export type Drive = Schemas["Drive"];
export type Bank = Schemas["Bank"];
export type Spell = Schemas["Spell"];

export type PassagePicture = NonNullable<Studies["passage/picture"]["answer"]>;
export type PassageWays = NonNullable<Studies["passage/ways"]["answer"]>;
export type Sure = NonNullable<Studies["passage/sure"]["answer"]>;
export type Leg = Schemas["Leg"];
export type TideStation = Schemas["StationShown"];
export type Worth = Schemas["Worth"];
export type WorthAsk = Schemas["WorthAsk"];
export type Known = Schemas["Known"];
export type Usual = Schemas["Usual"];
export type Refit = Schemas["Refit"];
export type Records = Schemas["Records"];
export type OneRecord = NonNullable<Records["records"]>[number];
export type RecordOf<K extends OneRecord["kind"]> = Extract<OneRecord, { kind: K }>;
export type FitoutPicture = Studies["fitout/picture"]["answer"];
export type PartLine = Schemas["PartLine"];
export type StepOut = Schemas["StepOut"];
export type ItemShown = Schemas["ItemShown"];
export type GaugeShown = Schemas["GaugeShown"];
export type PanelTestShown = Schemas["TestShown"];
export type Priced = Schemas["Priced"];
export type LogPicture = Studies["log/picture"]["answer"];
export type LogDay = NonNullable<LogPicture["day"]>;
export type LogOuting = LogDay["outing"];
export type LogReading = LogDay["readings"][number]["reading"];
export type LogNow = Studies["log/now"]["answer"];
export type LogMeaning = Studies["log/meaning"]["answer"][number];
export type LogSeason = NonNullable<Studies["log/season"]["answer"]>;
export type LogMeters = Studies["log/meters"]["answer"];
export type WishPicture = Studies["wish/picture"]["answer"];
export type WishFront = NonNullable<WorkOf<"wish">["result"]>;
export type WishPoint = WishFront["points"][number];
export type DeviceOut = Schemas["DeviceOut"];
export type LivePart = Schemas["LivePart"];
export type WorkOut = Schemas["WorkOut"];
export type WorkKind = WorkOut["kind"];
export type WorkOf<K extends WorkKind> = Extract<WorkOut, { kind: K }>;

interface Question {
  requestBody: { content: { "application/json": { design: unknown } } };
  responses: { 200: { content: { "application/json": unknown } } };
}
type Asked<Q extends Question> = Omit<Q["requestBody"]["content"]["application/json"], "design">;
type Answered<Q extends Question> = Q["responses"][200]["content"]["application/json"];

/** What is asked beside the design and what is answered, by the address of a study. */
export type Studies = {
  [P in keyof paths as P extends `/api/${infer S}`
    ? paths[P] extends { post: Question }
      ? S
      : never
    : never]: paths[P] extends { post: infer Q extends Question }
    ? { asked: Partial<Asked<Q>>; answer: Answered<Q> }
    : never;
};

export const client = createClient<paths>({ baseUrl: "/" });

/** A refusal of the server, with its problems beside their fields. */
export class Refused extends Error {
  constructor(
    readonly problems: Problem[],
    readonly status: number,
  ) {
    super(problems.map((problem) => problem.message).join(" ") || "The server did not answer.");
  }
}

interface Reply<T> {
  data?: T;
  error?: unknown;
  response: Response;
}

/** The data of a reply, or the refusal thrown. */
export async function dataOf<T>(reply: Promise<Reply<T>>): Promise<T> {
  const { data, error, response } = await reply;
  if (!response.ok) throw new Refused(problemsIn(error), response.status);
  return data as T;
}

export function problemsIn(body: unknown): Problem[] {
  return body && typeof body === "object" && "errors" in body ? (body.errors as Problem[]) : [];
}

export async function refusalIn(reply: Response): Promise<Refused> {
  return new Refused(problemsIn(await reply.json().catch(() => null)), reply.status);
}

/** The boat with the lists of a refit in the place of its own. */
export function refitted(design: BoatDesign, refit: Refit): BoatDesign {
  const given = Object.entries(refit).filter(([, list]) => list !== null);
  return { ...design, ...Object.fromEntries(given) };
}

/** A boat from a file's bytes. */
export async function openFile(file: File): Promise<BoatRow> {
  const response = await fetch("/api/boats/file", { method: "POST", body: file });
  if (!response.ok) throw await refusalIn(response);
  return (await response.json()) as BoatRow;
}
