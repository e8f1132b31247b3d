import { useQuery } from "@tanstack/react-query";
import type { Schemas } from "../../../api/client";
import { clipPicture } from "../../../api/pictures";
import { catalogueQuery } from "../../../api/queries";
import { ChoiceRow } from "../../../ui/choice-row";
import { ratio, shown, toExact, toNumber } from "../../../ui/exact";
import { NumberField } from "../../../ui/number-field";
import { Row } from "../../../ui/row";
import { useBench } from "../../state/use-bench";
import { useInterpretation } from "./use-interpretation";

/** The shapes that the clip's pixels may have, each as a real rendering with what speaks for and against it. */
export function PixelShapes() {
  const { footage, set } = useInterpretation();
  const { time } = useBench("time");
  const { data: catalogue } = useQuery(catalogueQuery);
  const { interpretation, info, stated } = footage;
  const used = toNumber(interpretation.pixel_aspect ?? info.pixel_aspect ?? "1");
  return (
    <>
      <p className="text-soft">Pick the one where circles are round.</p>
      <ul className="grid grid-cols-2 gap-2">
        {footage.candidates.map((candidate) => {
          const { pixel_aspect } = candidate;
          const chosen = used === toNumber(pixel_aspect);
          return (
            <li key={pixel_aspect}>
              <ShapeButton
                {...{ candidate, chosen }}
                picture={clipPicture(footage, { ...interpretation, pixel_aspect }, { width: 200, time })}
                onChoose={() => set({ pixel_aspect })}
              />
            </li>
          );
        })}
      </ul>
      <Row label="Other">
        <NumberField
          label="Other pixel aspect"
          {...{ unit: "×", low: 0.1, high: 10, step: 0.01, decimals: 4 }}
          value={used}
          onCommit={(value) => set({ pixel_aspect: toExact(value, 6) })}
        />
      </Row>
      <ChoiceRow
        label="Lens squeeze"
        value={stated.pixel_aspect ?? ""}
        choices={[
          { value: "", title: "As in the file" },
          ...(catalogue?.squeezes ?? []).map((squeeze) => ({
            value: squeeze,
            title: `Anamorphic ${shown(squeeze)}×`,
          })),
          ...(stated.pixel_aspect && !catalogue?.squeezes.includes(stated.pixel_aspect)
            ? [{ value: stated.pixel_aspect, title: ratio(stated.pixel_aspect) }]
            : []),
        ]}
        onChange={(value) => set({ pixel_aspect: value || null })}
      />
    </>
  );
}

type ShapeProps = {
  candidate: Schemas["Candidate"];
  chosen: boolean;
  picture: string;
  onChoose: () => void;
};

function ShapeButton({ candidate, chosen, picture, onChoose }: ShapeProps) {
  const { pixel_aspect, shape, evidence, doubts } = candidate;
  return (
    <button
      type="button"
      aria-pressed={chosen}
      onClick={onChoose}
      className={`flex h-full w-full flex-col overflow-hidden rounded border-2 bg-sheet text-left ${
        chosen ? "border-ochre" : "border-rule hover:border-soft"
      }`}
    >
      <span className="flex h-20 w-full shrink-0 items-center justify-center bg-well">
        <img
          alt={`The clip with pixels of ${ratio(pixel_aspect)}`}
          className="max-h-full max-w-full"
          src={picture}
        />
      </span>
      <span className="block px-1.5 py-1 text-[12px] leading-4">
        <span className="num block">
          {ratio(pixel_aspect)}, {shape}
        </span>
        <span className="block text-soft">{evidence.join("; ")}</span>
        {doubts.length > 0 && <span className="block text-rust">but {doubts.join("; ")}</span>}
      </span>
    </button>
  );
}
