import { useQuery } from "@tanstack/react-query";
import type { Plan } from "../../api/client";
import { catalogueQuery } from "../../api/queries";
import { Button } from "../../ui/button";
import { Fold } from "../../ui/fold";
import { ReadableLine } from "../readable-line";
import { useBench } from "../state/use-bench";
import { Controls } from "./surround/controls";

type Values = Record<string, unknown>;

/** Titles, each at its place and for its time, and captions from a file. */
export function WordsPart() {
  const { plan, measure, change, commit } = useBench("plan", "measure", "change", "commit");
  const { data: catalogue } = useQuery(catalogueQuery);
  const { titles, captions } = plan.finish;
  const withFinish = (fields: Partial<Plan["finish"]>) => ({
    ...plan,
    finish: { ...plan.finish, ...fields },
  });
  const withTitle = (number: number, values: Values) =>
    withFinish({ titles: titles.map((title, at) => (at === number ? { ...title, ...values } : title)) });
  const withCaptions = (values: Values) => withFinish({ captions: { ...captions, ...values } });
  if (!catalogue) return null;

  return (
    <>
      <Fold title="Titles" state={titles.length ? String(titles.length) : ""} open={titles.length > 0}>
        {titles.map((title, number) => (
          // biome-ignore lint/suspicious/noArrayIndexKey: only their order identifies titles
          <div key={number} className="grid gap-2.5 border-b border-rule pb-3">
            <ReadableLine what={`title ${number + 1}`} />
            <Controls
              controls={catalogue.title}
              kinds={[]}
              values={title as Values}
              onChange={(name, value) => change(withTitle(number, { [name]: value }))}
              onCommit={(name, value, label) => commit(withTitle(number, { [name]: value }), label)}
            />
            <Button
              className="justify-self-start"
              onClick={() =>
                commit(withFinish({ titles: titles.filter((_, at) => at !== number) }), "Title taken away")
              }
            >
              Delete title
            </Button>
          </div>
        ))}
        <div className="flex items-baseline gap-3">
          <Button onClick={() => commit(withFinish({ titles: [...titles, measure.new_title] }), "Title")}>
            Add a title
          </Button>
          {titles.length > 0 && <span className="text-soft">Drag it in the picture.</span>}
        </div>
      </Fold>
      <Fold title="Captions" state={captions.of ? "on" : ""} open={captions.of !== ""}>
        <Controls
          controls={catalogue.captions}
          kinds={[]}
          values={captions as Values}
          onChange={(name, value) => change(withCaptions({ [name]: value }))}
          onCommit={(name, value, label) => commit(withCaptions({ [name]: value }), label)}
        />
      </Fold>
    </>
  );
}
