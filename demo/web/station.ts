import type { Level } from "./level";

export interface Station<out L extends Level = Level> {
  readonly id: string;
  name?: string;
  levels: L[];
  at(time: Date): L | undefined
}

export type Surge = { station: string, metres: number } | null;

export enum Warning { Quiet, Watch = 2, Evacuate }

export abstract class Watch {
  private last: Surge = null;
  constructor(protected readonly threshold: number) {}

  abstract notify(surge: NonNullable<Surge>): Promise<void>;

  async check(station: Station): Promise<Warning> {
    const surge = worst(station.levels as Level[])
    if (surge !== null && surge.metres > this.threshold) {
      await this.notify(surge); this.last = surge;
      return Warning.Watch;
    }
    return Warning.Quiet;
  }
}

function worst(levels: Level[]): Surge {
  return levels.reduce<Surge>((found, level) => found && found.metres > level.metres ? found : { station: level.station, metres: level.metres }, null);
}
