extends Node
const Boat=preload('res://boat.gd')
export(int) var low = 1 setget set_low,get_low
onready var gauge = get_node( "Gauge" )
export (float) var high=4
var names={ "quay":1,'mole' : 2}
var rows=[ 1,2 ,3]
func set_low( value ):
    low=value; emit_signal('moved',low )
    if low>2 : print(low)
    else :
        print ('low')   
func get_low()->int : return low
func ebb(a,b:int=2,c:=3,d = 4):
    var f=func (x):return x*x
    var g = func(x):
        return x
    return f.call(a)+b*c-d**2 if not a else -b

    
func wide():
    return first_reading_of_the_northern_gauge + second_reading_of_the_northern_gauge + (third_reading_of_the_gauge+1)
func deep():

    match low:
        1 : pass
    notify(first_reading_of_the_northern_gauge, second_reading_of_the_northern_gauge, "the lock is shut")
    var total = (first_reading_of_the_northern_gauge + second_reading_of_the_northern_gauge and third_reading_of_it)
    var told = notify({"level": first_reading_of_the_northern_gauge, "at": second_reading_of_the_northern, "x": 1})
    return 1 #why
class Buoy:
    var a=1
    func drift():
        pass
    func sink() : pass
class Wreck: pass
