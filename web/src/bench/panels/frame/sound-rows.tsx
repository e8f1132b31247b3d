import type { FileOffer, Settings } from "../../../api/client";
import { Button } from "../../../ui/button";
import { ChoiceRow } from "../../../ui/choice-row";
import { NumberField } from "../../../ui/number-field";
import { TickRow } from "../../../ui/tick-row";
import { WordsRow } from "../../../ui/words-row";

type Props = {
  file: FileOffer;
  settings: Settings;
  set: (fields: Partial<Settings>) => void;
  /** The tracks setting that pairs this clip's mono tracks, or "". */
  joinable: string;
};

const BROADCAST = -23;

/** How sound is written: its form, its channels, its loudness. */
export function SoundRows({ file, settings, set, joinable }: Props) {
  return (
    <>
      <ChoiceRow
        label="Sound"
        value={settings.sound}
        choices={file.sounds.map(({ name, title }) => ({ value: name, title }))}
        onChange={(sound) => set({ sound: sound as Settings["sound"] })}
      />
      {settings.sound !== "none" && <Channels {...{ settings, set, joinable }} />}
    </>
  );
}

function Channels({ settings, set, joinable }: Omit<Props, "file">) {
  const { loudness } = settings;
  return (
    <>
      <TickRow ticked={settings.stereo} onChange={(stereo) => set({ stereo })}>
        Mixed to stereo, by ITU-R BS.775
      </TickRow>
      <TickRow
        ticked={loudness != null}
        onChange={(levelled) => set({ loudness: levelled ? BROADCAST : null })}
      >
        Brought to a loudness, EBU R 128
      </TickRow>
      {loudness != null && (
        <div className="grid grid-cols-[84px_1fr] items-center gap-2.5">
          <span>Loudness</span>
          <NumberField
            label="Loudness, LUFS"
            {...{ unit: "LUFS", low: -40, high: -5, step: 1, decimals: 1 }}
            value={loudness}
            onCommit={(value) => set({ loudness: value })}
          />
        </div>
      )}
      <WordsRow
        label="Tracks"
        value={settings.tracks}
        onChange={() => undefined}
        onCommit={(tracks) => set({ tracks: tracks.trim() })}
      />
      {joinable && settings.tracks !== joinable && (
        <Button onClick={() => set({ tracks: joinable })}>Join mono tracks into stereo</Button>
      )}
      <WordsRow
        label="Channels"
        value={settings.channels}
        onChange={() => undefined}
        onCommit={(channels) => set({ channels: channels.trim() })}
      />
      <p className="text-soft">
        Empty keeps all. Tracks: 1+2 joins two mono tracks into stereo, 1/2 keeps them apart. Channels: 3+4
        keeps those two.
      </p>
    </>
  );
}
