//! How the game engine's scripts are laid out.

use crate::languages::testing::{faults, lay, lay_with, touched};

#[test]
fn statements_are_laid_out() {
    insta::assert_snapshot!(lay("gdscript", "\
extends  Node
class_name A,'res://a.svg'
signal b( c:int,d )
enum E{F,G=2}
const H:=1
var i:int=2 ; var j = 3
export(int,1,2) var k=1 setget set_k,get_k
onready var l=$M/N
@export_range( 0,1 ) var o:float=1.0:
  set( value ):
    o=value
  get:return o
@onready
var p
static func q( r,s:int=1,t:=2,u = 3 )->void:
  if r and(s) : return
  elif not t:pass
  else:
    for v:int in range( 3 ):continue
    while w: break
  match x:
    1,2 when y:
      pass
    [var z,..] : pass
    _:
      return z
func aa():pass
class BB extends CC:
  var dd
  func ee():pass
  func ff(): pass
"), @r#"
    extends Node
    class_name A, "res://a.svg"
    signal b(c: int, d)
    enum E {F, G = 2}
    const H := 1
    var i: int = 2
    var j = 3
    export(int, 1, 2) var k = 1 setget set_k, get_k
    onready var l = $M/N
    @export_range(0, 1) var o: float = 1.0:
    	set(value):
    		o = value
    	get:
    		return o
    @onready
    var p


    static func q(r, s: int = 1, t := 2, u = 3) -> void:
    	if r and (s):
    		return
    	elif not t:
    		pass
    	else:
    		for v: int in range(3):
    			continue
    		while w:
    			break
    	match x:
    		1, 2 when y:
    			pass
    		[var z, ..]:
    			pass
    		_:
    			return z


    func aa():
    	pass


    class BB extends CC:
    	var dd

    	func ee():
    		pass

    	func ff():
    		pass
    "#);
}

#[test]
fn expressions_are_laid_out() {
    insta::assert_snapshot!(lay("gdscript", "\
var a=-b+!c*d**e if not f else ~g
var h=i<<1|j&k^2
var l=[1,2 ,3,];var m={ 'n':1,\"o\" : 2,p=3 }
var q=r[1][ 2 ].s( t )[u].v
var w=x is not Y and z not in aa or bb as CC
var dd=func( ee ):return ee
var ff=$'A/B'.get_node( ^\"C\" ).call(&'d',%E)
gg+=await hh.ii( )
var jj = 'it is \"so\"' + '''k''' + r'l'
"), @r#"
    var a = -b + !c * d ** e if not f else ~g
    var h = i << 1 | j & k ^ 2
    var l = [1, 2, 3]
    var m = { "n": 1, "o": 2, p = 3 }
    var q = r[1][2].s(t)[u].v
    var w = x is not Y and z not in aa or bb as CC
    var dd = func(ee): return ee
    var ff = $'A/B'.get_node(^"C").call(&'d', %E)
    gg += await hh.ii()
    var jj = 'it is "so"' + '''k''' + r'l'
    "#);
}

#[test]
fn a_function_without_a_name_holds_lines_inside_brackets() {
    let text = "\
func a():
\tb.connect(func(c):
\t\td(c)
\t\tif e:
\t\t\tf()
\t)
\tg(h, func(): i(), {
\t\t\"j\": func(k):
\t\t\treturn k,
\t})
\tvar l = func(m):
\t\treturn m
\tn.filter(
\t\t\tfunc(o: int) -> bool:
\t\t\t\treturn o > 1
\t)
";
    assert_eq!(lay("gdscript", text), text);
    insta::assert_snapshot!(lay("gdscript", &text.replace("d(c)", "d( c )")), @r#"
    func a():
    	b.connect(func(c):
    		d(c)
    		if e:
    			f()
    	)
    	g(h, func(): i(), {
    		"j": func(k):
    			return k,
    	})
    	var l = func(m):
    		return m
    	n.filter(
    			func(o: int) -> bool:
    				return o > 1
    	)
    "#);
}

#[test]
fn a_line_goes_on_two_steps_further_in() {
    let text = "\
func a():
\tvar b = (
\t\t\tlong_name_of_the_harbour_master > long_name_of_the_other_harbour_master
\t\t\tand c
\t)
\tvar g = c \\
\t\t\tand d
\tif d \\
\t\t\tand e:
\t\tf(
\t\t\t\tlong_name_of_the_harbour_master,
\t\t\t\tlong_name_of_the_other_harbour_master,
\t\t\t\tlong_name_of_the_quay
\t\t)
";
    assert_eq!(lay("gdscript", text), text);
}

#[test]
fn lines_further_in_by_tabs_alone_stand_under_something_by_chance() {
    let text = "\
func a():
\treturn (\"low \" + str(b)
\t\t\t+ \" of the quay\")


func b():
\treturn (low & b) != 0 \\
\t\t\tand c


func c():
\tif not (low == b or high == b
\t\t\tor flood == b) or c:
\t\tpass
";
    let rows = [("wrap_align", "", "any"), ("list_wrap", "", "rows")];
    assert_eq!(lay_with("gdscript", &rows, text), text);
    // Who lines something up puts spaces there.
    let lined_up = text.replace("\t\t\tor", "\t        or");
    let longer = lined_up.replace("if not", "while not").replace("        or", "           or");
    assert_eq!(lay_with("gdscript", &rows, &lined_up), lined_up);
    assert_eq!(lay_with("gdscript", &rows, &longer), longer);
}

#[test]
fn a_heading_is_set_off_by_one_line() {
    let text = "\
func a():
\tpass


# --- the gauges ---

func b():
\tpass
";
    assert_eq!(lay("gdscript", text), text);
    let apart = text.replace("---\n\n", "---\n\n\n");
    assert_eq!(lay("gdscript", &apart), apart);
    let near = text.replace("pass\n\n\n#", "pass\n\n#");
    assert_eq!(lay("gdscript", &near), text);
}

#[test]
fn sections_have_their_blank_lines() {
    insta::assert_snapshot!(lay("gdscript", "\
@tool
extends Node
const A = preload(\"res://a.gd\")
var b
# why
func c():
\tpass
@rpc
func d():
\tvar e


\t# why
\treturn e
class F:
\tvar g
\tfunc h():
\t\tpass
\tfunc i():
\t\tpass
#region rest
func j():
\tpass
#endregion
"), @r#"
    @tool
    extends Node
    const A = preload("res://a.gd")
    var b


    # why
    func c():
    	pass


    @rpc
    func d():
    	var e


    	# why
    	return e


    class F:
    	var g

    	func h():
    		pass

    	func i():
    		pass


    #region rest
    func j():
    	pass
    #endregion
    "#);
}

#[test]
fn only_what_is_touched_changes() {
    let base = "func a():\n    var b=1\n    if b :\n        c( )\n    return b\n";
    insta::assert_snapshot!(
        touched("gdscript", base, &base.replace("c( )", "c( )\n        d( )")),
        @"
    func a():
        var b=1
        if b :
            c( )
            d()
        return b
    "
    );
}

#[test]
fn quotes_and_ends_are_the_canons() {
    let text = "var a = 'b'; var c = 'd \"e\"'\n";
    insta::assert_snapshot!(lay("gdscript", text), @r#"
    var a = "b"
    var c = 'd "e"'
    "#);
    insta::assert_snapshot!(
        lay_with("gdscript", &[("quotes", "", "single"), ("statement_end", "", "keep")], text),
        @r#"
    var a = 'b';
    var c = 'd "e"'
    "#
    );
}

#[test]
fn what_does_not_parse_is_a_fault() {
    assert!(!faults("gdscript", "func a():\nb\n").is_empty());
    assert!(!faults("gdscript", "func a():\n\tb(\n").is_empty());
    assert!(faults("gdscript", "func a():\n\tb()\n").is_empty());
}

#[test]
fn what_does_not_fit_and_has_no_brackets_worth_opening_is_put_in_parentheses() {
    let narrow = [("max_line_length", "", "40")];
    insta::assert_snapshot!(lay_with("gdscript", &narrow, "\
func told(day):
	var sum := spring_tide + surge_at_night + neap
	if spring_tide > 2 and surge_at_night and neap:
		return \"at \" + String(gauge) + \" of the quay\"
	var own = low + read(gauge_at_the_quay, metres, day)
"), @r#"
    func told(day):
    	var sum := (
    			spring_tide
    			+ surge_at_night
    			+ neap
    	)
    	if (
    			spring_tide > 2
    			and surge_at_night
    			and neap
    	):
    		return (
    				"at " + String(gauge)
    				+ " of the quay"
    		)
    	var own = low + read(
    			gauge_at_the_quay,
    			metres,
    			day
    	)
    "#);
}
