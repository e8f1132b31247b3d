import { type QueryClient, type QueryKey, useMutation, useQueryClient } from "@tanstack/react-query";
import { unwrap } from "./client";
import { inOrder } from "./saves";

type Call<Answer> = Promise<{ data?: Answer; error?: unknown; response: Response }>;
type Options<Given, Answer> = {
  /** The queries to fetch again once the server has answered, also with an error. */
  refresh?: QueryKey | ((client: QueryClient) => unknown);
  /** Whether it waits for pending edits and earlier changes, as everything must that is in the history. */
  ordered?: boolean;
  onMutate?: (given: Given) => void;
  onSuccess?: (answer: Answer, given: Given) => void;
  onError?: (problem: unknown) => void;
  onSettled?: () => unknown;
};

/** A change that is sent to the server when `mutate` is called; its error is a Problem. */
export function useSend<Given = void, Answer = unknown>(
  send: (given: Given) => Call<Answer>,
  { refresh, ordered, onSettled, ...options }: Options<Given, Answer> = {},
) {
  const client = useQueryClient();
  return useMutation({
    mutationFn: (given: Given) => (ordered ? inOrder(() => unwrap(send(given))) : unwrap(send(given))),
    onSettled: () => {
      onSettled?.();
      if (typeof refresh === "function") return refresh(client);
      if (refresh) return client.invalidateQueries({ queryKey: refresh });
    },
    ...options,
  });
}

/** Several kinds of calls with one error, that of the last call: `mutate(() => api.POST(…))`. */
export const useCalls = (options: Options<() => Call<unknown>, unknown>) =>
  useSend((call: () => Call<unknown>) => call(), options);
