extends Node

const LEVELS = {
	"north": 1.20,  # by the lock
	"south":  2.45,  # by the sea
}

const WEEK = [
	["Monday",  4.2, 0.8],
	["Tuesday", 4.4, 0.6],
]

var low     = 1
var highest = 2
var mark = 3      # at the quay
var ebb = "low"   # at the mole


func told(day_of_the_first_reading,
		gauge_at_the_old_quay):
	notify(day_of_the_first_reading,
			gauge_at_the_old_quay)
	notify("north",
		   gauge)
	if (
			day > 2
			and gauge
	):
		return
	var sum = (low and
			highest)
	return [
		low
		and highest,
		sum,
	]
