import type { Reading, Station } from "./station";

/** How the wind raises the water: metres of surge for each metre a second beyond a calm. */
export interface SurgeModel<S extends Station = Station> {
  readonly station: S;
  readonly calm: number;
  surge(reading: Reading, hours?: number): number;
}

export type Outlook =
  | { kind: "calm" }
  | { kind: "surge"; metres: number; at: Date }
  | { kind: "unknown"; reason: string };

const HOURS_AHEAD = 6;

export class LinearModel implements SurgeModel {
  constructor(readonly station: Station, readonly calm = 8, private slope = 0.03) {}

  surge(reading: Reading, hours: number = HOURS_AHEAD): number {
    const wind = reading.wind?.metresPerSecond ?? 0;
    return Math.max(0, wind - this.calm) * this.slope * Math.sqrt(hours);
  }
}

export function outlook(model: SurgeModel, readings: readonly Reading[]): Outlook {
  const last = readings.at(-1);
  if (!last) {
    return { kind: "unknown", reason: `no reading at ${model.station.name}` };
  }
  const metres = model.surge(last);
  return metres < 0.1 ? { kind: "calm" } : { kind: "surge", metres, at: last.at };
}
