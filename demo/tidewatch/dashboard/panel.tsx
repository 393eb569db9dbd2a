import { useState } from "react";
import type { Outlook } from "../forecast/surge";

type Props = { station: string; outlook: Outlook; onAlarm?: (station: string) => void };

export function Panel({ station, outlook, onAlarm }: Props) {
  const [open, setOpen] = useState(false);
  return (
    <section className="panel" aria-expanded={open}>
      <h2 onClick={() => setOpen(!open)}>{station}</h2>
      {outlook.kind === "surge" && (
        <p role="alert">
          The wind raises the water by <b>{outlook.metres.toFixed(1)} m</b>.
          <button type="button" onClick={() => onAlarm?.(station)}>
            Sound the siren
          </button>
        </p>
      )}
      {open && outlook.kind === "unknown" ? <p>{outlook.reason}</p> : null}
    </section>
  );
}
