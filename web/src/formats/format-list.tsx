import { ratio } from "../ui/exact";
import type { Shape } from "./outlines";

export type Line = { group: string; source: string; aspect: string; pixels: string; shape: Shape };

type Props = {
  lines: Line[];
  chosen: ReadonlySet<string>;
  onToggle: (key: string) => void;
  onLight: (key: string | null) => void;
};

/** Formats by group, each with its numbers and where they are published. */
export function FormatList({ lines, chosen, onToggle, onLight }: Props) {
  const groups = [...new Set(lines.map(({ group }) => group))];
  return (
    <table className="w-full border-collapse">
      <thead>
        <tr className="text-left text-soft">
          <th className="py-1 font-normal">draw</th>
          <th className="font-normal">stored</th>
          <th className="font-normal">pixels</th>
          <th className="font-normal">shape</th>
          <th className="font-normal">source</th>
        </tr>
      </thead>
      {groups.map((group) => (
        <tbody key={group}>
          <tr>
            <th
              colSpan={5}
              scope="rowgroup"
              className="border-b border-rule pt-3 pb-1 text-left font-semibold"
            >
              {group}
            </th>
          </tr>
          {lines
            .filter((line) => line.group === group)
            .map(({ source, aspect, pixels, shape }) => (
              <tr
                key={`${shape.key} ${pixels}`}
                className="border-b border-rule/60 hover:bg-sheet"
                onPointerEnter={() => onLight(shape.key)}
                onPointerLeave={() => onLight(null)}
              >
                <td className="py-0.5">
                  <label className="flex cursor-pointer items-center gap-2">
                    <input
                      type="checkbox"
                      className="accent-ochre"
                      checked={chosen.has(shape.key)}
                      onChange={() => onToggle(shape.key)}
                    />
                    {shape.name}
                  </label>
                </td>
                <td className="num pr-2">{shape.own}</td>
                <td className="num pr-2">{ratio(pixels)}</td>
                <td className="num pr-2">{aspect}</td>
                <td className="text-[11px] leading-4 text-soft">{source}</td>
              </tr>
            ))}
        </tbody>
      ))}
    </table>
  );
}
