class_name Harbour
extends Node2D
## A small game for visitors: bring the boats in while there is water enough.

signal grounded(boat: Node2D)

const LEAST := 1.2
const TIDES := [0.4, 1.6, 3.1, 4.4, 3.2, 1.5]

@export var hours_a_second: float = 2.0
@onready var _water: Sprite2D = $Water
@onready var _told: Label = %Told

var level: float = 0.0:
	set(value):
		level = maxf(value, 0.0)
		_water.position.y = -level * 8.0
var _hour := 0.0
var _boats: Array[Node2D] = []


func _ready() -> void:
	grounded.connect(func(boat: Node2D):
		_boats.erase(boat)
		_told.text = "%s is aground" % boat.name
	)
	for child in $Boats.get_children():
		_boats.append(child)


func _process(delta: float) -> void:
	_hour = fmod(_hour + delta * hours_a_second, TIDES.size())
	var before := int(_hour)
	var after := (before + 1) % TIDES.size()
	level = lerpf(TIDES[before], TIDES[after], _hour - before)
	for boat in _boats:
		if level < LEAST and boat.position.y > _water.position.y:
			grounded.emit(boat)


func state() -> StringName:
	match TIDES[int(_hour)]:
		var tide when tide > 4.0:
			return &"high"
		var tide when tide < LEAST:
			return &"low"
		_:
			return &"between"
