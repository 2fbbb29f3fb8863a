import { fetchStations } from './stations.js';
import { draw } from './draw.js';

/** How often the board is drawn anew, in milliseconds. */
const EVERY = 30_000;

class Board {
  #stations = new Map();

  constructor(root) { this.root = root; }

  async refresh() {
    for (const station of await fetchStations()) {
      this.#stations.set(station.id, station)
    }
    draw(this.root, [...this.#stations.values()].filter(s => s.level > s.foretold).map(s => ({
      name: s.name,
      surge: s.level - s.foretold,
    })));
  }
}

const start = (root) => {
  const board = new Board(root);
  setInterval(() => {
    // TODO: stop while nobody looks
    board.refresh();
  }, EVERY);
  return board;
};

Board.prototype.stations = function () {
  return `stations: ${this.root}`;
};

export { Board, start };
