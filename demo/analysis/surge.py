"""Finds surges in a station's readings."""
# %% Reading
import csv
from dataclasses import dataclass
from datetime import datetime


@dataclass
class Reading:
    station: str
    time: datetime
    metres: float


def read(path):
    with open(path) as file:
        return [Reading(row[0], datetime.fromisoformat(row[1]), float(row[2])) for row in csv.reader(file)]

# %% Surges
class Surges:
    """What stands above the foretold tide."""

    def __init__(self, readings, foretold):
        self.readings = readings
        self.foretold = foretold

    def worst(self, above=0.3):
        worst = None
        for reading in self.readings:
            surge = reading.metres - self.foretold(reading.time)
            if surge > above and (worst is None or surge > worst):
                worst = surge
            elif surge < -above:
                continue  # TODO(jo): low water is of no interest here, or is it?
        return worst

# %%% Printing
if __name__ == "__main__":
    print(f"{len(read('levels.csv'))} readings")
