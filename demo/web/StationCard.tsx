import { useState } from "react";
import type { Station } from "./station";

type Props = { station: Station; onPin: (id: string) => void };

export function StationCard({ station, onPin }: Props) {
  const [open, setOpen] = useState(false);
  return (
    <article className="card" id={station.id}>
      <h2 onClick={() => setOpen(!open)}>{station.name ?? station.id}</h2>
      {open && (
        <ul>
          {station.levels.map((level) => <li key={level.time}>{level.metres} m</li>)}
        </ul>
      )}
      {/* TODO: say when the next high water is */}
      <button onClick={() => onPin(station.id)}>Pin</button>
    </article>
  );
}
