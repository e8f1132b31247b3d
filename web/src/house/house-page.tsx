import { Header } from "../shell/header";
import { ProblemNote } from "../ui/problem-note";
import { gigabytes } from "../ui/size";
import { useTitle } from "../ui/use-title";
import { Invitations } from "./invitations";
import { PeopleTable } from "./people-table";
import { type House, useHouse } from "./use-house";

/** For administrators: accounts and their use, work in progress, and how the server was set up. */
export function HousePage() {
  useTitle("People and server");
  const house = useHouse();
  const { data } = house;
  return (
    <div className="flex min-h-full flex-col">
      <Header trail={<span className="truncate font-semibold">People and server</span>} />
      <main id="main" tabIndex={-1} className="grid max-w-6xl grow content-start gap-8 p-6 outline-none">
        <h1 className="text-[26px] font-bold tracking-tight">People and server</h1>
        <ProblemNote error={house.error} />
        {data && (
          <>
            <PeopleTable people={data.people} onChange={house.change} />
            <Invitations invitations={data.invitations} onInvite={house.invite} onUninvite={house.uninvite} />
            <AtWork house={data} />
            <Understood settings={data.settings} />
          </>
        )}
      </main>
    </div>
  );
}

function AtWork({ house }: { house: House }) {
  return (
    <section aria-label="At work" className="grid gap-2">
      <h2 className="font-semibold text-[15px]">At work</h2>
      <p className="text-soft">
        <span className="num">{house.waiting}</span> renders wait;{" "}
        <span className="num">{gigabytes(house.free)}</span> are free where footage arrives.
      </p>
      <ul className="grid gap-1">
        {house.at_work.map(({ id, person, project, clip, percent }) => (
          <li key={id} className="flex items-center gap-3">
            <span className="w-40 truncate font-semibold">{person}</span>
            <span className="min-w-0 grow truncate">
              {project}: {clip}
            </span>
            <progress className="h-1 w-40" value={percent} max={100} />
            <span className="num w-12 text-right text-soft">{percent}%</span>
          </li>
        ))}
      </ul>
    </section>
  );
}

function Understood({ settings }: { settings: House["settings"] }) {
  return (
    <section aria-label="Settings" className="grid gap-2">
      <h2 className="font-semibold text-[15px]">How it was set up</h2>
      <table className="text-left">
        <tbody>
          {settings.map(({ name, value, meaning }) => (
            <tr key={name} className="border-rule border-b align-top">
              <th scope="row" className="num py-1.5 pr-4 font-normal text-soft">
                {name}
              </th>
              <td className="num py-1.5 pr-4 wrap-anywhere">{value || "not set"}</td>
              <td className="py-1.5 text-soft">{meaning}</td>
            </tr>
          ))}
        </tbody>
      </table>
    </section>
  );
}
