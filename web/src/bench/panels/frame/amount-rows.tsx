import type { FileOffer, Settings } from "../../../api/client";
import { useChoices } from "../../../api/use-choices";
import { ChoiceRow } from "../../../ui/choice-row";
import { NumberField } from "../../../ui/number-field";
import { TickRow } from "../../../ui/tick-row";

type Props = { file: FileOffer; settings: Settings; set: (fields: Partial<Settings>) => void };

/** How much is written: by quality in a word or the number behind it, or by rate. */
export function AmountRows({ file, settings, set }: Props) {
  const { rate_controls } = useChoices();
  const word = file.qualities.find((one) => one.word === settings.quality);
  if (!word) return null;
  return (
    <>
      {file.rated && (
        <ChoiceRow
          label="Rate control"
          value={settings.rate_control}
          choices={rate_controls.filter(({ value }) => file.capped || value !== "constant_rate")}
          onChange={(by) => set({ rate_control: by as Settings["rate_control"] })}
        />
      )}
      {settings.rate_control === "quality" ? (
        <>
          <ChoiceRow
            label="Quality"
            value={settings.quality}
            choices={file.qualities.map(({ word: value, number }) => ({
              value,
              title: `${value}, ${file.scale} ${number}`,
            }))}
            onChange={(quality) => set({ quality: quality as Settings["quality"] })}
          />
          {file.scale === "crf" && (
            <Row label="Value">
              <NumberField
                label="Encoder quality value"
                {...{ unit: file.scale, low: 0, high: file.most_number, step: 1, decimals: 0 }}
                value={settings.number ?? Number(word.number)}
                onCommit={(number) => set({ number: Math.round(number) })}
              />
            </Row>
          )}
        </>
      ) : (
        <>
          <Row label="Rate">
            <NumberField
              label="Rate, kb/s"
              {...{ unit: "kb/s", low: file.least_rate, high: file.most_rate, step: 500, decimals: 0 }}
              value={settings.rate}
              onCommit={(rate) => set({ rate: Math.round(rate) })}
            />
          </Row>
          {settings.rate_control === "rate" && file.capped && (
            <Row label="Maximum">
              <NumberField
                label="Maximum, kb/s; 0 for none"
                {...{ unit: "kb/s", low: 0, high: file.most_rate, step: 500, decimals: 0 }}
                value={settings.ceiling}
                onCommit={(ceiling) => set({ ceiling: Math.round(ceiling) })}
              />
            </Row>
          )}
          {file.two_passes && (
            <TickRow ticked={settings.passes === 2} onChange={(twice) => set({ passes: twice ? 2 : 1 })}>
              Two passes
            </TickRow>
          )}
        </>
      )}
    </>
  );
}

function Row({ label, children }: { label: string; children: React.ReactNode }) {
  return (
    <div className="grid grid-cols-[84px_1fr] items-center gap-2.5">
      <span>{label}</span>
      {children}
    </div>
  );
}
