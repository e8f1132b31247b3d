import { Button } from "../ui/button";
import { NumberField } from "../ui/number-field";
import { gigabytes } from "../ui/size";
import type { Person } from "./use-house";

type Change = {
  id: number;
  active?: boolean;
  administrator?: boolean;
  gigabytes?: number;
  renders?: number;
};

/** All accounts, their use and their limits; 0 is the server default. */
export function PeopleTable({ people, onChange }: { people: Person[]; onChange: (change: Change) => void }) {
  return (
    <section aria-label="People" className="grid gap-2">
      <p className="text-soft">0 = server default; see the set-up below. Linked clips do not count.</p>
      <table aria-label="Accounts" className="w-full text-left">
        <thead className="text-soft">
          <tr className="border-rule border-b">
            {[
              "Name",
              "Projects",
              "Used",
              "May use",
              "Renders at a time",
              "Now",
              "Last here",
              "Role",
              "Account",
            ].map((title) => (
              <th key={title} scope="col" className="py-1.5 pr-3 font-normal">
                {title}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {people.map((person) => (
            <PersonLine
              key={person.id}
              person={person}
              onChange={(given) => onChange({ id: person.id, ...given })}
            />
          ))}
        </tbody>
      </table>
    </section>
  );
}

function PersonLine({
  person,
  onChange,
}: {
  person: Person;
  onChange: (change: Omit<Change, "id">) => void;
}) {
  const { name, active, administrator, use, seen, projects } = person;
  const tight = use.gigabytes !== null && use.used > use.gigabytes * 0.8e9;
  return (
    <tr className={`border-rule border-b ${active ? "" : "text-soft"}`}>
      <th scope="row" className="py-2 pr-3 font-semibold wrap-anywhere">
        {name}
      </th>
      <td className="num pr-3">{projects}</td>
      <td className={`num pr-3 whitespace-nowrap ${tight ? "text-rust" : ""}`}>{gigabytes(use.used)}</td>
      <td className="w-32 pr-3">
        <NumberField
          label={`Gigabytes that ${name} may use`}
          {...{ unit: "GB", low: 0, high: 1e6, step: 10, value: use.gigabytes ?? 0 }}
          onCommit={(value) => onChange({ gigabytes: value })}
        />
      </td>
      <td className="w-28 pr-3">
        <NumberField
          label={`Renders of ${name} at a time`}
          {...{ unit: "", low: 0, high: 1000, step: 1, decimals: 0, value: use.renders ?? 0 }}
          onCommit={(value) => onChange({ renders: Math.round(value) })}
        />
      </td>
      <td className="num pr-3 whitespace-nowrap text-soft">
        {use.running > 0 || use.waiting > 0 ? `${use.running} made, ${use.waiting} wait` : "nothing"}
      </td>
      <td className="num pr-3 whitespace-nowrap text-soft">
        {seen ? new Date(seen).toLocaleDateString() : "never"}
      </td>
      <td className="pr-3">
        <label className="flex min-h-6 items-center gap-1.5 whitespace-nowrap">
          <input
            type="checkbox"
            className="accent-ochre"
            checked={administrator}
            onChange={(event) => onChange({ administrator: event.target.checked })}
          />
          Administrator
        </label>
      </td>
      <td>
        <Button
          look="link"
          className="min-h-6 whitespace-nowrap"
          onClick={() => onChange({ active: !active })}
        >
          {active ? "Deactivate account" : "Reactivate account"}
        </Button>
      </td>
    </tr>
  );
}
