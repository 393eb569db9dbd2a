@tool
class_name VisitorGame
extends Node2D
## A small game for the visitors of the tide office: keep the boat off the ground.

signal grounded
signal moved(by: Vector2, at: float)

enum State { EBB, FLOOD = 4, SLACK }

const TIDES := [0.4, 1.2, 5.2]
const NAMES: Dictionary = {"quay": 1, "mole": 2}

@export var speed: float = 12.0
@export_range(0, 10) var depth := 2
@onready var boat: Sprite2D = $Harbour/Boat
@onready var mark = get_node(^"Mark")

var level: float = 0.0:
	set(value):
		level = maxf(value, 0.0)
		moved.emit(Vector2.ZERO, level)
	get:
		return level
var _state: State = State.EBB

#region running

func _init(start := 1.0, name: StringName = &"boat") -> void:
	level = start
	set_meta(name, true)


func _ready():
	grounded.connect(func(): print("aground"))
	moved.connect(
			func(by: Vector2, at: float) -> void:
				boat.position += by
				if at < 0.5 and not is_afloat():
					grounded.emit()
	)
	for index: int in range(3):
		await get_tree().create_timer(0.1).timeout
		level += TIDES[index] * 2 ** index


static func is_low(tide: float, least = 0.5) -> bool:
	return tide < least or tide == 0


func is_afloat() -> bool:
	return level > depth - 1 if boat != null else false


func _process(delta):
	match _state:
		State.EBB when level <= 0:
			_state = State.SLACK
		State.FLOOD, State.SLACK:
			level -= delta
		[var first, ..]:
			pass
		{"quay": var quay}:
			print(quay)
		_:
			breakpoint
	while level > 6 and boat is Sprite2D:
		if "ebb" not in NAMES:
			break
		elif boat.visible:
			continue
		else:
			# Nothing can be seen.
			return
	var angle = -level * (1 + depth) % 4
	var mask = 1 << 2 | 4 & ~3
	$Harbour/Boat.rotation = angle as float
	%Mark.text = """
	As it stands
		"""

#endregion


class Wave:
	extends Resource

	var height = 1.0
	var runs: Array[float] = []

	func _init(high):
		height = high

	func breaks():
		return height > 2 \
				and not runs.is_empty()
