//! What people keep in TypeScript.

use super::Case;

pub(super) const KEPT: &[Case] = &[
    ("a type behind a mark, in a file that tells the size of its levels by nothing else", "typescript", &[], "\
type Levels<S> = keyof S extends string
  ? {
      [K in keyof S]: Level<
        S[K],
        K
      >
    }
  : never
"),
    ("a type behind a mark, once", "typescript", &[], "\
type Levels<S> = S extends Board
  ? {
      level: S
    }
  : never

function read() {
  return 1
}
"),
    ("the body of a function behind the mark of its result", "typescript", &[], "\
function read<T>(
    level: T
): T extends Board
    ? Level
    : never {
    return level as any
}

function low() {
    return 1
}
"),
    ("functions that functions give, with them", "typescript", &[], "\
export const among = (
  ...stations: Station[]
) =>
(level: Level) => {
  return stations.find(level)
}

export const above = (level: Level): (station: Station) => boolean =>
(station) => station.level > level
"),
];
