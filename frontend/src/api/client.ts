/** The one typed client; nothing else calls fetch. */
import createClient, { type Middleware } from "openapi-fetch";
import type { paths } from "./schema";
import type {
  BroughtView,
  CalculatorQuery,
  CellView,
  ChainsView,
  Change,
  CompareView,
  CountsView,
  CycleView,
  DivisionView,
  DrawingView,
  JobEdit,
  JobForm,
  JobList,
  JobsQuery,
  JournalView,
  LibraryView,
  MeshView,
  PartOfLoad,
  PickView,
  PlanView,
  PlayView,
  ReadingView,
  RevisionForm,
  Schemas,
  ShelfView,
  Spot3,
  Stale,
  StockSolidView,
  StockView,
} from "./types";
import { watched, type Work } from "./works";

export type * from "./types";

const AUTHOR = "lean-ledger-author";

export function author(): string {
  return localStorage.getItem(AUTHOR) ?? "";
}

export function setAuthor(name: string): void {
  localStorage.setItem(AUTHOR, name);
}

/** Who asks, and that it is a page of our own: a foreign one cannot send the second. */
const ourHeaders = () => ({
  "Lean-Ledger-Author": encodeURIComponent(author()),
  "X-Requested-With": "lean-ledger",
});

const signed: Middleware = {
  onRequest({ request }) {
    for (const [name, value] of Object.entries(ourHeaders())) request.headers.set(name, value);
    return request;
  },
};

export const client = createClient<paths>({ baseUrl: "" });
client.use(signed);

/** A refusal of the server, in its own words. */
export class Refused extends Error {
  constructor(
    readonly code: string,
    message: string,
    readonly stale: Stale | null = null,
  ) {
    super(message);
  }
}

function refusal(body: unknown, status: number): Refused {
  const problem = body as Partial<Stale> | undefined;
  if (problem?.plan && problem.since) return new Refused("stale", problem.detail ?? "", problem as Stale);
  const detail = problem?.detail ?? `The server answered ${status}.`;
  return new Refused((problem?.type ?? "").replace("lean-ledger:", ""), detail);
}

export const MARK = { "X-Requested-With": "lean-ledger" } as const;

const OFFLINE = "The server does not answer. Nothing was changed; try again when it runs.";

type Answer = { data?: unknown; error?: unknown; response: Response };

/** The answer's data as the schema has it (the client itself widens its tuples to arrays). */
export async function unwrap<T>(call: Promise<Answer>, broken = OFFLINE): Promise<T> {
  let answer: Answer;
  try {
    answer = await call;
  } catch {
    throw new Refused("offline", broken);
  }
  if (answer.data === undefined || answer.error !== undefined)
    throw refusal(answer.error, answer.response.status);
  return answer.data as T;
}

/** For what has no answer but that it was taken. */
export async function taken(call: Promise<Answer>): Promise<void> {
  const answer = await call.catch(() => null);
  if (!answer) throw new Refused("offline", "The server does not answer. Nothing was changed.");
  if (!answer.response.ok) throw refusal(answer.error, answer.response.status);
}

/** As `unwrap`, where the answer is made beside the requests: asked again once the work has ended. */
export async function made<T>(ask: () => Promise<Answer>, signal?: AbortSignal): Promise<T> {
  for (;;) {
    signal?.throwIfAborted();
    const answer = await ask().catch(() => null);
    if (answer?.response.status !== 202)
      return unwrap<T>(answer ? Promise.resolve(answer) : Promise.reject());
    const work = await watched(answer.data as Work, api.work, signal);
    if (work.state === "cancelled") throw new Refused("cancelled", `${work.title} was stopped.`);
  }
}

const ifMatch = (edition: number) => ({ "If-Match": `"${edition}"`, ...MARK });

/** A file among other values, as a browser's form would send them. */
const asForm = {
  bodySerializer: (values: Record<string, File | string | number | boolean | null | undefined>) => {
    const form = new FormData();
    for (const [name, value] of Object.entries(values))
      if (value !== null && value !== undefined)
        form.set(name, value instanceof File ? value : String(value));
    return form;
  },
};

/** As `unwrap`, for what brings a file: where the connection breaks, the file was too large. */
const sent = <T>(call: Promise<Answer>) =>
  unwrap<T>(call, "The server ended the upload. A file of more than 100 MB is not read.");

export const api = {
  jobs: (query: JobsQuery) => unwrap<JobList>(client.GET("/api/jobs", { params: { query } })),
  journal: (id: number, before?: number) =>
    unwrap<JournalView>(
      client.GET("/api/plans/{plan_id}/journal", { params: { path: { plan_id: id }, query: { before } } }),
    ),
  work: (id: string) => unwrap<Work>(client.GET("/api/works/{work}", { params: { path: { work: id } } })),
  stopWork: (id: string) =>
    unwrap<Work>(client.DELETE("/api/works/{work}", { params: { path: { work: id }, header: MARK } })),
  plan: (id: number) =>
    unwrap<PlanView>(client.GET("/api/plans/{plan_id}", { params: { path: { plan_id: id } } })),
  library: () => unwrap<LibraryView>(client.GET("/api/library")),
  mesh: (id: number, revision = "") =>
    unwrap<MeshView>(
      client.GET("/api/plans/{plan_id}/mesh", { params: { path: { plan_id: id }, query: { revision } } }),
    ),
  machines: (id: number) =>
    made<Schemas["MachinesView"]>(() =>
      client.GET("/api/plans/{plan_id}/machines", { params: { path: { plan_id: id } } }),
    ),
  beginnings: (id: number) =>
    made<Schemas["BeginningsView"]>(() =>
      client.GET("/api/plans/{plan_id}/beginnings", { params: { path: { plan_id: id } } }),
    ),
  boughtAs: (id: number) =>
    made<Schemas["BoughtView"]>(() =>
      client.GET("/api/plans/{plan_id}/bought-as", { params: { path: { plan_id: id } } }),
    ),
  beginAgain: (id: number, edition: number, machines: string[]) =>
    unwrap<PlanView>(
      client.POST("/api/plans/{plan_id}/begin-again", {
        params: { path: { plan_id: id }, header: ifMatch(edition) },
        body: { machines },
      }),
    ),
  shelf: () => unwrap<ShelfView>(client.GET("/api/shop/tools")),
  bringTools: (file: File) =>
    sent<BroughtView>(
      client.POST("/api/shop/tools", { params: { header: MARK }, body: { file }, ...asForm }),
    ),
  bringCutting: (file: File) =>
    sent<BroughtView>(
      client.POST("/api/shop/cutting", { params: { header: MARK }, body: { file }, ...asForm }),
    ),
  changeTool: (row: Record<string, string>) =>
    unwrap<BroughtView>(client.PUT("/api/shop/tools", { params: { header: MARK }, body: { row } })),
  chains: () => unwrap<ChainsView>(client.GET("/api/shop/chains")),
  changeChains: (rules: Record<string, unknown>[]) =>
    unwrap<ChainsView>(client.PUT("/api/shop/chains", { params: { header: MARK }, body: { rules } })),
  bringChains: (file: File) =>
    sent<ChainsView>(
      client.POST("/api/shop/chains", { params: { header: MARK }, body: { file }, ...asForm }),
    ),
  dropOwn: (what: "tool" | "cutting" | "chains" | "magazine", key: string) =>
    unwrap<ShelfView>(
      client.DELETE("/api/shop/own/{what}/{key}", { params: { path: { what, key }, header: MARK } }),
    ),
  changeMagazine: (machine: string, tools: string[]) =>
    unwrap<ShelfView>(
      client.PUT("/api/shop/magazines/{machine}", {
        params: { path: { machine }, header: MARK },
        body: { tools },
      }),
    ),
  shelfFile: (file: string) => `/api/shop/files/${file}`,
  calculator: (query: CalculatorQuery) =>
    unwrap<Schemas["CalculatedView"]>(client.GET("/api/shop/calculator", { params: { query } })),
  pace: (id: number, operation: string, speed: number, feed: number) =>
    unwrap<Schemas["PaceView"]>(
      client.GET("/api/plans/{plan_id}/operations/{operation}/pace", {
        params: { path: { plan_id: id, operation }, query: { speed, feed } },
      }),
    ),
  figures: (id: number, operation: string) =>
    unwrap<Schemas["FiguresView"]>(
      client.GET("/api/plans/{plan_id}/operations/{operation}/figures", {
        params: { path: { plan_id: id, operation } },
      }),
    ).then((found) => found.figures),
  trial: (id: number, setup: string, which: string) =>
    made<Schemas["TrialView"]>(() =>
      client.GET("/api/plans/{plan_id}/program/{setup}/trial/{which}", {
        params: { path: { plan_id: id, setup, which } },
      }),
    ),
  lastUsed: (id: number) =>
    unwrap<Schemas["LastUsedView"]>(
      client.GET("/api/plans/{plan_id}/last-used", { params: { path: { plan_id: id } } }),
    ).then((found) => found.entries),
  worth: (id: number) =>
    made<Schemas["WorthsView"]>(() =>
      client.GET("/api/plans/{plan_id}/worth", { params: { path: { plan_id: id } } }),
    ).then((found) => found.entries),
  toolUse: (id: number) =>
    unwrap<Schemas["ToolUsesView"]>(
      client.GET("/api/plans/{plan_id}/tool-use", { params: { path: { plan_id: id } } }),
    ),
  play: (id: number) =>
    made<PlayView>(() => client.GET("/api/plans/{plan_id}/play", { params: { path: { plan_id: id } } })),
  toolWay: (id: number, operation: string) =>
    unwrap<Schemas["ToolWayView"]>(
      client.GET("/api/plans/{plan_id}/play/{operation}", { params: { path: { plan_id: id, operation } } }),
    ),
  programs: (id: number) =>
    unwrap<Schemas["ProgramsView"]>(
      client.GET("/api/plans/{plan_id}/program", { params: { path: { plan_id: id } } }),
    ),
  sendPackage: (id: number) =>
    made<Schemas["SentView"]>(() =>
      client.POST("/api/plans/{plan_id}/program/send", { params: { path: { plan_id: id }, header: MARK } }),
    ),
  programFile: (id: number, setup: string, which: number) =>
    `/api/plans/${id}/program/${setup}/text?which=${which}`,
  machineFile: (plan: number, machine: string) => `/api/plans/${plan}/program/machine/${machine}/text`,
  partFile: (id: number, setup: string, part: PartOfLoad, which: number) =>
    `/api/plans/${id}/program/${setup}/part/text?${partWords(part)}&which=${which}`,
  packageFile: (id: number) => `/api/plans/${id}/program/package`,
  stock: (id: number, signal?: AbortSignal) =>
    made<StockView>(
      () => client.GET("/api/plans/{plan_id}/stock", { params: { path: { plan_id: id } } }),
      signal,
    ),
  stockAfter: (id: number, count: number) =>
    made<StockSolidView>(() =>
      client.GET("/api/plans/{plan_id}/stock/{count}", { params: { path: { plan_id: id, count } } }),
    ),
  stockHeight: (id: number, count: number, point: Spot3, along: Spot3) =>
    made<Schemas["HeightView"]>(() =>
      client.POST("/api/plans/{plan_id}/stock/{count}/height", {
        params: { path: { plan_id: id, count }, header: MARK },
        body: { point, along },
      }),
    ),
  grips: (id: number, setup: string) =>
    made<Schemas["GripsView"]>(() =>
      client.GET("/api/plans/{plan_id}/setups/{setup}/grips", {
        params: { path: { plan_id: id, setup } },
      }),
    ),
  division: (id: number) =>
    made<DivisionView>(() =>
      client.GET("/api/plans/{plan_id}/division", { params: { path: { plan_id: id } } }),
    ),
  layout: (id: number) =>
    unwrap<Schemas["LayoutsView"]>(
      client.GET("/api/plans/{plan_id}/layout", { params: { path: { plan_id: id } } }),
    ).then((found) => found.loads),
  partOfLoad: (id: number, setup: string, part: PartOfLoad) =>
    unwrap<Schemas["PartProgramView"]>(
      client.GET("/api/plans/{plan_id}/program/{setup}/part", {
        params: { path: { plan_id: id, setup }, query: part },
      }),
    ),
  cycle: (id: number, load: string) =>
    unwrap<CycleView>(
      client.GET("/api/plans/{plan_id}/order/{load}", { params: { path: { plan_id: id, load } } }),
    ),
  balance: (id: number) =>
    unwrap<Schemas["BalanceView"]>(
      client.GET("/api/plans/{plan_id}/balance", { params: { path: { plan_id: id } } }),
    ),
  cell: (id: number) =>
    unwrap<CellView>(client.GET("/api/plans/{plan_id}/balance/cell", { params: { path: { plan_id: id } } })),
  gains: (id: number, load: string, signal?: AbortSignal) =>
    made<Schemas["GainsView"]>(
      () =>
        client.GET("/api/plans/{plan_id}/balance/{load}/gains", { params: { path: { plan_id: id, load } } }),
      signal,
    ),
  bothEnds: (id: number, signal?: AbortSignal) =>
    made<Schemas["BothEndsOffersView"]>(
      () => client.GET("/api/plans/{plan_id}/balance/both-ends", { params: { path: { plan_id: id } } }),
      signal,
    ),
  leastCycle: (id: number, load: string, seconds: number, signal?: AbortSignal) =>
    made<Schemas["FoundCycleView"]>(
      () =>
        client.GET("/api/plans/{plan_id}/balance/{load}/best", {
          params: { path: { plan_id: id, load }, query: { seconds } },
        }),
      signal,
    ),
  bestOrder: (id: number, load: string, goal: string, seconds: number, signal?: AbortSignal) =>
    made<Schemas["BestView"]>(
      () =>
        client.GET("/api/plans/{plan_id}/order/{load}/best", {
          params: { path: { plan_id: id, load }, query: { goal, seconds } },
        }),
      signal,
    ),
  waysAround: (id: number, load: string, piece: string, operation: string, signal?: AbortSignal) =>
    made<Schemas["WaysAroundView"]>(
      () =>
        client.GET("/api/plans/{plan_id}/order/{load}/again/{piece}/{operation}", {
          params: { path: { plan_id: id, load, piece, operation } },
        }),
      signal,
    ).then((answer) => answer.ways),
  counts: (id: number, load: string) =>
    made<CountsView>(() =>
      client.GET("/api/plans/{plan_id}/layout/{load}/counts", { params: { path: { plan_id: id, load } } }),
    ),
  scopes: (id: number, load: string) =>
    made<Schemas["ScopesView"]>(() =>
      client.GET("/api/plans/{plan_id}/layout/{load}/scopes", { params: { path: { plan_id: id, load } } }),
    ),
  compare: (id: number, revision: string) =>
    unwrap<CompareView>(
      client.GET("/api/plans/{plan_id}/revisions/{revision}", {
        params: { path: { plan_id: id, revision } },
      }),
    ),
  measure: (id: number, picks: PickView[]) =>
    unwrap<Schemas["PickReadings"]>(
      client.POST("/api/plans/{plan_id}/measure", {
        params: { path: { plan_id: id }, header: MARK },
        body: { picks, revision: "" },
      }),
    ).then((answer) => answer.readings),
  reading: (id: string) =>
    unwrap<ReadingView>(client.GET("/api/readings/{reading}", { params: { path: { reading: id } } })),
  cancelReading: (id: string) =>
    unwrap<ReadingView>(
      client.DELETE("/api/readings/{reading}", { params: { path: { reading: id }, header: MARK } }),
    ),
  chooseSolid: (id: string, solid: number) =>
    unwrap<ReadingView>(
      client.POST("/api/readings/{reading}/solid", {
        params: { path: { reading: id }, header: MARK },
        body: { solid },
      }),
    ),
  meanSize: (id: string) =>
    unwrap<ReadingView>(
      client.POST("/api/readings/{reading}/size", { params: { path: { reading: id }, header: MARK } }),
    ),
  drawing: (id: number, setup: string, view: "top" | "end" | "iso") =>
    unwrap<DrawingView>(
      client.GET("/api/plans/{plan_id}/setups/{setup}/drawing", {
        params: { path: { plan_id: id, setup }, query: { view } },
      }),
    ),
  change: (id: number, edition: number, change: Change) =>
    unwrap<PlanView>(
      client.POST("/api/plans/{plan_id}/changes", {
        params: { path: { plan_id: id }, header: ifMatch(edition) },
        body: change,
      }),
    ),
  step: (id: number, edition: number, way: "undo" | "redo") =>
    unwrap<PlanView>(
      client.POST(way === "undo" ? "/api/plans/{plan_id}/undo" : "/api/plans/{plan_id}/redo", {
        params: { path: { plan_id: id }, header: ifMatch(edition) },
      }),
    ),
  goTo: (id: number, edition: number, seq: number) =>
    unwrap<PlanView>(
      client.POST("/api/plans/{plan_id}/version", {
        params: { path: { plan_id: id }, header: ifMatch(edition) },
        body: { seq },
      }),
    ),
  /** Uploads a new job's part and begins to read it. */
  newJob: (values: JobForm) =>
    sent<ReadingView>(
      client.POST("/api/readings/job", { params: { header: MARK }, body: values, ...asForm }),
    ),
  /** The same with the next revision of one. */
  newRevision: (values: RevisionForm) =>
    sent<ReadingView>(
      client.POST("/api/readings/revision", { params: { header: MARK }, body: values, ...asForm }),
    ),
  /** The model of a casting or forging that a plan starts from. */
  stockModel: (id: number, edition: number, file: File) =>
    sent<PlanView>(
      client.POST("/api/plans/{plan_id}/stock-model", {
        params: { path: { plan_id: id }, header: ifMatch(edition) },
        body: { file },
        ...asForm,
      }),
    ),
  engraving: (id: number, edition: number, face: string, file: File) =>
    sent<PlanView>(
      client.POST("/api/plans/{plan_id}/engraving", {
        params: { path: { plan_id: id }, header: ifMatch(edition) },
        body: { face, file },
        ...asForm,
      }),
    ),
  attachProgram: (id: number, edition: number, setup: string, operation: string, file: File) =>
    sent<PlanView>(
      client.POST("/api/plans/{plan_id}/program/{setup}/attached", {
        params: { path: { plan_id: id, setup }, header: ifMatch(edition) },
        body: { operation, file },
        ...asForm,
      }),
    ),
  editJob: (id: number, values: JobEdit) =>
    taken(
      client.PATCH("/api/jobs/{job_id}", { params: { path: { job_id: id }, header: MARK }, body: values }),
    ),
  paper: (id: number, paper: string) => `/api/plans/${id}/papers/${paper}`,
};

function partWords(part: PartOfLoad): string {
  const words = new URLSearchParams();
  for (const [name, values] of Object.entries(part))
    for (const value of values) words.append(name, String(value));
  return words.toString();
}
