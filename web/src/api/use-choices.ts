import { useSuspenseQuery } from "@tanstack/react-query";
import type { Schemas } from "./client";
import { catalogueQuery } from "./queries";

export type Choices = Schemas["Choices"];

/** What people choose from, with the words for it, and what a framing begins with. */
export const useChoices = (): Choices => useSuspenseQuery(catalogueQuery).data.choices;

/** The words for a choice. */
export const titleOf = (choices: Schemas["Choice"][], value: string) =>
  choices.find((one) => one.value === value)?.title ?? value;
