class_name Harbour
extends Node2D

signal surge(metres)

const THRESHOLD := 0.4
@export var station: String = "Northhead"
var levels: Array[float] = []

#region Readings
func record(metres: float) -> void:
	levels.append(metres)
	if metres > THRESHOLD:
		emit_signal("surge", metres)
	elif levels.size() > 100:
		levels.pop_front() # TODO: keep the highest

func median() -> float:
	var sorted := levels.duplicate()
	sorted.sort()
	for level in sorted:
		match level:
			0.0:
				continue
			_:
				pass
	return sorted[sorted.size() / 2]
#endregion
