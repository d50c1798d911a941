import createClient, { type Middleware } from "openapi-fetch";
import { reaching } from "./reach";
import type { components, paths } from "./schema";

export type Schemas = components["schemas"];
export type Job = Schemas["JobOut"];
export type JobSpec = Schemas["JobSpec"];
export type JobStrip = Schemas["JobStrip"];
export type Part = Schemas["Part"];
export type Ply = Schemas["Ply"];
export type Fabric = Schemas["Fabric"];
export type RunSheet = Schemas["RunSheet"];
export type SheetLane = Schemas["SheetLane"];
export type SheetBay = Schemas["SheetBay"];
export type SheetPot = Schemas["SheetPot"];
export type LeverTried = Schemas["LeverTried"];
export type StartTried = Schemas["StartTried"];
export type PotWishes = Schemas["PotWishes"];
export type Coat = Schemas["Coat"];
export type Joint = Schemas["Joint"];
export type Pour = Schemas["Pour"];
export type CoatResult = Schemas["CoatResult"];
export type Casting = Schemas["CastingResult"];
export type BagResult = Schemas["BagResult"];
export type BagLayer = Schemas["BagLayer"];
export type Infusion = Schemas["InfusionResult"];
export type Damage = Schemas["Damage"];
export type FinishResult = Schemas["FinishResult"];
export type Wrong = Schemas["WrongIn"];
export type WrongFound = Schemas["WrongOut"];
export type PatchDrawn = Schemas["PatchDrawn"];
export type Stiffened = Schemas["StiffResult"];
export type FlowLine = Schemas["FlowLine"];
export type FlowMap = Schemas["FlowMap"];
export type SecondFeed = Schemas["SecondFeed"];
export type PourHours = Schemas["PourHours"];
export type TabStrip = Schemas["TabStrip"];
export type Thickened = Schemas["ThickenedResult"];
export type Plan = Schemas["Plan"];
export type PlyResult = Schemas["PlyResult"];
export type PartResult = Schemas["PartResult"];
export type JointResult = Schemas["JointResult"];
export type Chemistry = Schemas["ChemistryResult"];
export type ResinInUse = Schemas["ResinInUse"];
export type ResinResult = Schemas["ResinResult"];
export type ResinUse = Schemas["ResinUse"];
export type PotResult = Schemas["PotResult"];
export type Ticket = Schemas["TicketResult"];
export type Caution = Schemas["CautionRecord"];
export type Conditions = Schemas["Conditions"];
export type Library = Schemas["Library"];
export type Shop = Schemas["ShopOut"];
export type Session = Schemas["SessionOut"];
export type Preferences = Required<Schemas["PreferencesOut"]>;
export type ScaleTables = Schemas["ScaleTables"];
export type BenchTools = Schemas["BenchTools"];
export type Settings = Schemas["SettingsIn"];
export type Working = Schemas["Working"];
export type Day = Schemas["DayOut"];
export type Due = Schemas["DueOut"];
export type StepResult = Schemas["StepResult"];
export type Run = Schemas["RunOut"];
export type WholeRun = Schemas["WholeRunOut"];
export type Bench = Schemas["BenchOut"];
export type BenchCard = Schemas["BenchCard"];
export type CardPot = Schemas["CardPot"];
export type CardFlow = Schemas["CardFlow"];
export type CardMark = Schemas["CardMark"];
export type CardLayer = Schemas["CardLayer"];
export type Happened = Schemas["EventOut"];
export type Live = Schemas["LiveOut"];
export type Conflicts = Schemas["ConflictsOut"];
export type Role = Schemas["RoleIn"]["role"];
export type Revision = Schemas["RevisionOut"];
export type Story = Schemas["StoryOut"];
export type Product = Schemas["ProductOut"];
export type ProductField = Schemas["ProductField"];
export type ProductKind = Product["kind"];
export type ShelfWord = Schemas["ShelfWord"];
export type CutPiece = Schemas["CutPiece"];
export type CutRoll = Schemas["CutRoll"];
export type PrepLine = Schemas["PrepLine"];
export type StandingTick = Schemas["TickOut"];
export type Ready = Schemas["ReadyOut"];
export type ShoppingList = Schemas["ShoppingList"];
export type BlendResult = Schemas["BlendResult"];
export type LabelPoint = Schemas["LabelPoint"];
export type PotTrial = Schemas["Tried"];
export type ResinSystem = Schemas["ResinSystem"];
export type LabOut = Schemas["LabOut"];
export type LabLevel = Schemas["LabLevel"];
export type LabResult = Schemas["LabResult"];
export type MassPoint = Schemas["MassPoint"];
export type Hardener = Schemas["Hardener"];
export type StatedTime = Schemas["StatedTime"];
export type QuickLine = Schemas["QuickLineOut"];
export type Dimension = Schemas["QuantityIn"]["dimension"];
export type Stock = Schemas["StockOut"];
export type Article = Schemas["ArticleOut"];
export type Lot = Schemas["LotOut"];
export type LotStory = Schemas["LotStory"];
export type BuiltOut = Schemas["BuiltOut"];
export type BuiltPlace = Schemas["BuiltPlace"];
export type CardLane = Schemas["CardLane"];
export type Found = Schemas["FoundOut"];
export type Taught = Schemas["TaughtOut"];
export type TaughtRecord = Schemas["RecordOut"];
export type Week = Schemas["WeekOut"];
export type WeekDay = Schemas["WeekDay"];
export type JobOfWeek = Schemas["JobOfWeek"];
export type Clash = Schemas["Clash"];
export type ShopWeek = Schemas["ShopWeek"];
export type Training = Schemas["TrainingOut"];
export type Sum = Schemas["Sum"];
export type PourTask = Schemas["PourTask"];
export type Press = Schemas["Press"];
export type Sample = Schemas["Sample"];
export type LessonOut = Schemas["LessonOut"];
export type Standing = Schemas["Standing"];
export type Learner = Schemas["LearnerOut"];
export type AttemptIn = Schemas["AttemptIn"];
export type Marked = Schemas["Marked"];
export type GlossaryWord = Schemas["Word"];
export type Step = Schemas["NextStep"]["step"];
export interface Fault {
  path: string;
  message: string;
}

function cookie(name: string): string {
  const found = document.cookie.split("; ").find((pair) => pair.startsWith(`${name}=`));
  return found ? decodeURIComponent(found.slice(name.length + 1)) : "";
}

const csrf: Middleware = {
  async onRequest({ request }) {
    if (request.method === "GET") return request;
    // A page that was opened without the server has none yet.
    if (!cookie("csrftoken")) await fetch("/api/session").catch(() => undefined);
    request.headers.set("X-CSRFToken", cookie("csrftoken"));
    return request;
  },
};

export const client = createClient<paths>({ baseUrl: window.location.origin, fetch: reaching });
client.use(csrf);

/** What the server would not take, with the fields it names; `status` 0 means that it could not be reached. */
export class Refused extends Error {
  constructor(
    readonly status: number,
    readonly faults: Fault[],
  ) {
    super(faults[0]?.message ?? `the server answered ${status}`);
  }
}

/** The body of an answer, or Refused. */
export async function taken<T>(call: Promise<{ data?: T; error?: unknown; response: Response }>): Promise<T> {
  let answer: { data?: T; error?: unknown; response: Response };
  try {
    answer = await call;
  } catch {
    throw new Refused(0, [{ path: "", message: "the server cannot be reached" }]);
  }
  if (answer.response.ok) return answer.data as T;
  const said = answer.error as { problems?: Fault[]; detail?: string } | undefined;
  const message = said?.detail ?? `the server answered ${answer.response.status}`;
  throw new Refused(answer.response.status, said?.problems ?? [{ path: "", message }]);
}
