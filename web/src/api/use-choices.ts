import { useSuspenseQuery } from "@tanstack/react-query";
import type { Schemas } from "./client";
import { catalogueQuery } from "./queries";

export type Choices = Schemas["Choices"];

/** Choices with their titles, and the defaults of a framing. */
export const useChoices = (): Choices => useSuspenseQuery(catalogueQuery).data.choices;

/** The words for a choice. */
export const titleOf = (choices: Schemas["Choice"][], value: string) =>
  choices.find((one) => one.value === value)?.title ?? value;
