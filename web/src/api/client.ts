import createClient from "openapi-fetch";
import { Problem } from "../ui/problem";
import type { components, paths } from "./generated";

export type Schemas = components["schemas"];
export type Plan = Schemas["Plan"];
export type Design = Schemas["Design"];
export type Frame = Schemas["Frame"];
export type Placement = Plan["placement"];
export type Motion = Plan["motion"];
export type Follow = NonNullable<Motion["follow"]>;
export type Surround = Plan["surround"];
export type Measure = Schemas["Measure"];
export type Interpretation = Schemas["Interpretation"];
export type Framing = Schemas["FramingOut"];
export type Footage = Schemas["FootageOut"];
export type FrameRow = Schemas["FrameOut"];
export type Cell = Schemas["CellOut"];
export type CellAction = Schemas["CellsIn"]["action"];
export type Guide = Schemas["Guide"];
export type Edges = Schemas["Edges"];
export type Window = Schemas["Window"];
export type Treatment = Schemas["TreatmentOut"];
export type Alternative = Schemas["AlternativeOut"];
export type Catalogue = Schemas["Catalogue"];
export type Board = Schemas["Board"];
export type Render = Schemas["RenderOut"];
export type Kind = Schemas["Kind"];
export type Settings = Schemas["Settings"];
export type Material = Schemas["MaterialOut"];
export type Title = Plan["finish"]["titles"][number];
export type TitlePlace = Schemas["TitlePlace"];
export type Control = Schemas["Control"];

export { Problem };

export function csrfToken(): string {
  return /(?:^|; )csrftoken=([^;]+)/.exec(document.cookie)?.[1] ?? "";
}

/** Read an error body; anything that is not one of ours means the server could not be reached. */
export function problemFrom(body: unknown, status: number): Problem {
  const given = (body ?? {}) as Partial<Problem>;
  return new Problem(
    given.title ?? "The server did not answer.",
    given.remedy ?? "See whether it is still running, then try again.",
    given.clip ?? null,
    status,
    given.changed ?? [],
    given.uses ?? [],
  );
}

/** Send what the typed client cannot: a file, or a request whose answer is one. An error body is thrown as a Problem. */
export async function postRaw(address: string, init: RequestInit): Promise<Response> {
  const headers = { ...init.headers, "X-CSRFToken": csrfToken() };
  const response = await fetch(address, { method: "POST", ...init, headers }).catch(() => {
    throw problemFrom(null, 0);
  });
  if (!response.ok) throw problemFrom(await response.json().catch(() => null), response.status);
  return response;
}

export const api = createClient<paths>({ baseUrl: "" });
api.use({
  onRequest({ request }) {
    if (request.method !== "GET") request.headers.set("X-CSRFToken", csrfToken());
    return request;
  },
});

/** The data of an answer, or its error thrown as a Problem. */
export async function unwrap<T>(
  call: Promise<{ data?: T; error?: unknown; response: Response }>,
): Promise<T> {
  const { data, error, response } = await call.catch((failure: unknown) => {
    // A file that was sent by `postRaw` has its error as a Problem already.
    throw failure instanceof Problem ? failure : problemFrom(null, 0);
  });
  if (!response.ok) throw problemFrom(error, response.status);
  return data as T;
}
