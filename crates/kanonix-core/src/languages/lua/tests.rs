//! How Lua is laid out.

use crate::languages::testing::{faults, lay, lay_with, style, touched};
use crate::style::Setting;
use crate::text::LineSet;
use crate::{judge, languages};

#[test]
fn statements_are_laid_out() {
    insta::assert_snapshot!(lay("lua", "\
local a<const> ,b=1,2;local  c
function M.quay:mole( x,... )
return x,...; end
if a then b( )elseif c then d() else
e() end
while a do b() end
repeat
a=b
until c
for i=1,#t ,2 do print(t[i])
end
for k,v in pairs( t ) do print(k,v) end
do a=1; b=2 end
goto done
::done::
f=function ( a )end
"), @"
    local a <const>, b = 1, 2
    local c
    function M.quay:mole(x, ...)
      return x, ...
    end
    if a then
      b()
    elseif c then
      d()
    else
      e()
    end
    while a do b() end
    repeat
      a = b
    until c
    for i = 1, #t, 2 do
      print(t[i])
    end
    for k, v in pairs(t) do print(k, v) end
    do a = 1; b = 2 end
    goto done
    ::done::
    f = function (a) end
    ");
}

#[test]
fn expressions_are_laid_out() {
    insta::assert_snapshot!(lay("lua", "\
a=-b+not c*#d..'e'..1 ..f
a=b//2%3<<1|4&~5~6
a={1,2;3,b=4,[\"c\"]=5,[ [[d]] ]=6,}
a=b.c[1] [ [[d]] ]:e(f){g} \"h\" [[i
  j]]
a=- -b- -c
print'x' print{ y } print [[z]]
a=(b or c)(d)
"), @r#"
    a = -b + not c * #d .. 'e' .. 1 .. f
    a = b // 2 % 3 << 1 | 4 & ~5 ~ 6
    a = {1, 2; 3, b = 4, ["c"] = 5, [ [[d]] ] = 6}
    a = b.c[1][ [[d]] ]:e(f){g} "h" [[i
      j]]
    a = - -b - -c
    print'x'
    print{ y }
    print [[z]]
    a = (b or c)(d)
    "#);
}

#[test]
fn a_block_that_fits_stays_on_its_line_unless_the_canon_opens_it() {
    let text = "if a then b() end\nlocal function c() return 1 end\nd(function() return 2 end)\n";
    assert_eq!(lay("lua", text), text);
    let opened = "\
if a then
  b()
end
local function c()
  return 1
end
d(function()
  return 2
end)
";
    assert_eq!(lay_with("lua", &[("flat_block", "", "open")], text), opened);
    // Several arms with a line each are a table, and one alone is nobody's way.
    let table = "\
f()
if a then
  b()
elseif c    then d()
elseif e_or then f()
else
  g()
end
";
    assert_eq!(lay("lua", table), table);
    let one = table.replace("elseif c    then d()\n", "");
    assert_eq!(lay("lua", &one), one.replace("then f()", "then\n  f()"));
    // What ends them may stand on the line of the last.
    let ended = "local function f(a)\n  if a then return b\n  else return c end\nend\n";
    assert_eq!(lay("lua", ended), ended);
    let apart = ended.replace("c end", "c\n  end");
    assert_eq!(lay("lua", &apart), apart);
    let open = "local function f(a)\n  if a then\n    return b\n  else\n    return c\n  end\nend\n";
    assert_eq!(lay_with("lua", &[("flat_block", "", "open")], ended), open);
    let wide = |text: &str| text.replace("return c", &format!("return {}", "flood".repeat(20)));
    assert_eq!(lay("lua", &wide(ended)), wide(open));
    let long = format!("if {} then a() else b() end\n", "level".repeat(20));
    let wanted = format!("if {} then\n  a()\nelse\n  b()\nend\n", "level".repeat(20));
    assert_eq!(lay("lua", &long), wanted);
}

#[test]
fn what_is_too_long_opens_as_a_person_would() {
    let narrow = [("max_line_length", "", "40"), ("close_bracket", "", "own_line")];
    insta::assert_snapshot!(lay_with("lua", &narrow, "\
warn(quay, { level = 2.1, unit = \"metres\", high = 3 })
listen(quay, function(event) warn(event.level, event.unit) end)
local text = \"ebb at \" .. level .. \" flood at \" .. flood .. \" slack\"
local ebb, flood = tides:read(quay):filter(low), tides.flood
if level > high and not quiet and siren.works then warn() end
return springTide, neapTide, surge, level
"), @r#"
    warn(quay, {
      level = 2.1,
      unit = "metres",
      high = 3
    })
    listen(quay, function(event)
      warn(event.level, event.unit)
    end)
    local text = "ebb at " .. level
      .. " flood at " .. flood .. " slack"
    local ebb, flood = tides:read(quay)
      :filter(low),
      tides.flood
    if level > high
        and not quiet
        and siren.works then
      warn()
    end
    return springTide,
      neapTide,
      surge,
      level
    "#);
}

#[test]
fn calls_without_parentheses_and_statement_ends_stay() {
    let text = "local a = require \"quay\"\nlocal b = require'mole';\nf{ x = 1 }\ng { 2 };\n";
    assert_eq!(lay("lua", text), text);
    assert_eq!(lay("lua", "a=b\n;(c or d)()\n"), "a = b;\n(c or d)()\n");
}

#[test]
fn long_strings_and_long_comments_stay_to_the_byte() {
    let text = "local a = [==[\n  ebb\n ]] ]==]\n--[=[ why\n      ]] not ]=]\nb()\n";
    assert_eq!(lay("lua", &text.replace("local a =", " local a=")), text);
}

#[test]
fn a_string_goes_on_behind_a_line_end_of_any_kind() {
    let text = "local a = \"ebb \\\n  flood\\\\\"\nlocal b = 1\n";
    assert_eq!(lay("lua", &text.replace("b = 1", "b=1")), text);
    let returns = text.replace('\n', "\r\n");
    assert_eq!(lay("lua", &returns.replace("b = 1", "b=1")), returns);
    assert_eq!(lay_with("lua", &[("end_of_line", "", "crlf")], text), returns);
}

#[test]
fn two_marks_are_never_read_as_one() {
    let none = [("operator_gap", "", "false"), ("inner_gap", "brackets", "false")];
    let text = "a = b - -c\na = - -b\na = 1 .. 2\na = b .. ...\na = b[ [[c]] ]\n";
    let wanted = "a=b- -c\na=- -b\na=1 ..2\na=b.. ...\na=b[ [[c]] ]\n";
    assert_eq!(lay_with("lua", &none, text), wanted);
}

#[test]
fn comments_stand_where_they_belong() {
    let text = "\
if a then
  -- first
  b()
  -- last
elseif c then -- why
  d()
else
  -- nothing
end
local function e()
  -- nothing yet
end
local f = {
  1, -- one
  -- two
  2,
}
";
    assert_eq!(lay("lua", &text.replace("\n  ", "\n      ")), text);
}

#[test]
fn a_comment_alone_in_a_block_may_stay_on_its_line() {
    let text = "\
while ebb() do --[[ wait ]] end
local a = { b = function() --[[ nothing ]] end }
if a then --[[ nothing ]] end
if a then --[[ nothing ]]
end
";
    assert_eq!(lay("lua", text), text);
}

#[test]
fn blanks_that_a_canon_keeps_stand_on_both_sides_of_a_mark() {
    let keep = [("word_gap", "", "keep")];
    let text = "gauge : read(1)\ngauge[1] : read(1)\ngauge() . level = 1\n";
    assert_eq!(lay_with("lua", &keep, text), text);
    assert_eq!(lay("lua", text), text.replace(" : ", ":").replace(" . ", "."));
}

#[test]
fn a_mark_that_touches_the_end_of_a_comment_goes_with_it() {
    let text = "--[[\n  Tides\n]]--\nebb = 1 --[[ low ]]--\n";
    assert_eq!(lay("lua", text), text);
}

#[test]
fn a_block_stands_on_the_line_of_what_it_gives_values_to() {
    let text = "local ebb, flood do\n  local tide = read()\n  ebb, flood = tide[1], tide[2]\nend\n";
    assert_eq!(lay("lua", text), text);
    assert_eq!(lay("lua", &text.replace("  local", "local")), text);
    let valued = text.replace("flood do", "flood = 1, 2 do");
    assert_eq!(lay("lua", &valued), text.replace("flood do", "flood = 1, 2\ndo"));
}

#[test]
fn a_block_around_functions_of_the_file_may_leave_them_at_the_margin() {
    let text = "if siren then\n\n--- Wails.\nfunction wail()\n  siren:sound()\nend\n\nend\n";
    assert_eq!(lay_with("lua", &[("namespace_indent", "", "keep")], text), text);
    let inside =
        "if siren then\n\n  --- Wails.\n  function wail()\n    siren:sound()\n  end\n\nend\n";
    assert_eq!(lay_with("lua", &[("namespace_indent", "", "true")], text), inside);
    assert_eq!(lay_with("lua", &[("namespace_indent", "", "false")], inside), text);
    let arms = "if siren then\n\nfunction hush()\n  siren:stop()\nend\n\nif storm then\n\nfunction wail()\n  siren:sound()\nend\n\nend\nelse\n\nfunction wail()\n  warn()\nend\n\nend\n";
    assert_eq!(lay_with("lua", &[("namespace_indent", "", "keep")], arms), arms);
    // A comment behind the last of them is beside it.
    let said =
        "if siren then\n  hush()\nelse\nfunction wail()\n  warn()\nend\n-- As loud as it is.\nend\n";
    assert_eq!(lay_with("lua", &[("namespace_indent", "", "false")], said), said);
    let call = "if siren then\nwail()\nend\n";
    let wanted = "if siren then\n  wail()\nend\n";
    assert_eq!(lay_with("lua", &[("namespace_indent", "", "keep")], call), wanted);
}

#[test]
fn a_function_around_the_file_may_leave_what_it_holds_at_the_margin() {
    let text =
        "return function(gauge)\n\nlocal level = gauge:read()\nlog(level)\nreturn level\n\nend\n";
    let inside = "return function(gauge)\n\n  local level = gauge:read()\n  log(level)\n  return level\n\nend\n";
    assert_eq!(lay_with("lua", &[("namespace_indent", "", "keep")], text), text);
    assert_eq!(lay_with("lua", &[("namespace_indent", "", "keep")], inside), inside);
    assert_eq!(lay_with("lua", &[("namespace_indent", "", "false")], inside), text);
    // One of several, and one in a block, are none.
    let two = "local ebb = function()\nwarn()\nend\nlocal flood = function()\nwarn()\nend\n";
    let wanted = two.replace("\nwarn", "\n  warn");
    assert_eq!(lay_with("lua", &[("namespace_indent", "", "keep")], two), wanted);
}

#[test]
fn a_function_counts_from_where_it_begins_where_its_end_stands_below_that() {
    let text = "return function(level)\n         if high(level) then\n           warn()\n         end\n       end\n";
    assert_eq!(lay("lua", text), text);
    let table =
        "local tides = {\n  ebb = function(level)\n          return level - 1\n        end,\n}\n";
    assert_eq!(lay("lua", table), table);
    assert_eq!(lay("lua", &table.replace("          return", "     return")), table);
    let beside = "local tides = {\n  ebb = function(level)\n    return level - 1\n  end,\n}\n";
    assert_eq!(lay("lua", &table.replace("        end", "   end")), beside);
}

#[test]
fn a_condition_on_lines_of_its_own_stays_there() {
    let text = "if\n  ebb or\n  level < low\nthen\n  warn()\nelseif\n  flood\n  and level > high\nthen\n  warn()\nend\nwhile\n  ebb\ndo\n  wait()\nend\n";
    assert_eq!(lay("lua", text), text);
    assert_eq!(lay("lua", &text.replace("\n  level", "\n level")), text);
    // Where one of both words stands beside it, it begins behind the first of them.
    let behind = "if\n  ebb or\n  level < low then\n  warn()\nend\n";
    let wanted = "if ebb or\n    level < low then\n  warn()\nend\n";
    assert_eq!(lay("lua", behind), wanted);
}

#[test]
fn the_word_behind_a_condition_of_several_lines_keeps_its_line() {
    let text = "if ebb\n    and level < low\nthen\n  warn()\nend\n";
    assert_eq!(lay("lua", text), text);
    assert_eq!(lay("lua", &text.replace("\nthen", " then")), text.replace("\nthen", " then"));
    let one = "if ebb and level < low\nthen\n  warn()\nend\n";
    assert_eq!(lay("lua", one), one.replace("\nthen", " then"));
}

#[test]
fn operators_may_begin_no_further_in_than_what_they_go_on_with() {
    let none = [("wrap_indent", "operator", "0")];
    let text =
        "local say = \"ebb\" ..\nlevel .. unit\nif ebb\nand level < low then\n  warn()\nend\n";
    assert_eq!(lay_with("lua", &none, text), text);
    assert_eq!(
        lay("lua", text),
        "local say = \"ebb\" ..\n  level .. unit\nif ebb\n    and level < low then\n  warn()\nend\n"
    );
    // Where lines may stand anywhere, those further in stay there.
    let further = text.replace("\nlevel", "\n    level");
    assert_eq!(lay_with("lua", &none, &further), further);
    let strict = [none[0], ("wrap_align", "condition", "step")];
    assert_eq!(lay_with("lua", &strict, &further), text);
    // Calls one after another are none.
    let chain = "local level = gauge\n  :read()\n  :mean()\n";
    assert_eq!(lay_with("lua", &strict, chain), chain);
}

#[test]
fn only_touched_lines_change() {
    let before = "if  a  then\n    b( 1 )\nelse\n    c( 2 )\nend\n";
    let now = before.replace("c( 2 )", "c( 3 )\n  d( )");
    assert_eq!(touched("lua", before, &now), before.replace("c( 2 )", "c(3)\n    d()"));
}

#[test]
fn a_word_without_its_other_one_is_a_fault() {
    assert!(!faults("lua", "if a then\nb()\n").is_empty());
    assert!(!faults("lua", "b()\nend\n").is_empty());
    assert!(faults("lua", "goto a; ::a:: local b <close> = 0x1p4 + 5ULL + 2i\n").is_empty());
}

/// A table may begin below its sign, as `open_brace` has it.
#[test]
fn a_table_begins_below_its_sign() {
    let text = "\
Gauge =
{
  level = 2,
  near =
  {
    ebb = 1,
  },
}
local flood = { ebb = 1 }
local slack = {
  ebb = 1,
}
";
    assert_eq!(lay("lua", text), text);
    let same_line = [("open_brace", "collection", "same_line")];
    assert_eq!(
        lay_with("lua", &same_line, text),
        text.replace("=\n{", "= {").replace("=\n  {", "= {")
    );
    let lua = languages::by_name("lua").unwrap();
    let slips = judge(text, lua, &style("lua", &same_line), &LineSet::whole()).slips;
    assert!(slips.iter().all(|slip| slip.setting == Setting::OpenBrace), "{slips:?}");
    let next_line = [("open_brace", "collection", "next_line")];
    assert_eq!(lay_with("lua", &next_line, text), text.replace("slack = {", "slack =\n{"));
}

/// Where either side of an operator is kept, a new line begins at the same side throughout a chain.
#[test]
fn a_long_chain_breaks_at_one_side() {
    let product = ["ebb_tide"; 24].join(" * ");
    let text = format!("local tides = slack +\n  {product}\n");
    let laid = lay("lua", &text);
    assert!(laid.lines().count() > 20, "{laid}");
    assert!(laid.lines().all(|line| !line.trim_start().starts_with('*')), "{laid}");
}

/// So many tabs further in are so many steps, however wide the canon's are.
#[test]
fn tabs_are_steps_where_lines_may_stand_anywhere() {
    let text = "\
if ebb_tide and
\t\tflood_tide then
\tslack()
elseif ebb_tide or
\tflood_tide then
\twail(
\t\tebb_tide,
\t\tflood_tide)
end
";
    assert_eq!(lay("lua", text), text.replace('\t', "  "));
    assert_eq!(lay_with("lua", &[("indent_style", "", "tab")], text), text);
}

#[test]
fn a_last_mark_is_as_those_between_the_elements() {
    let open = [("last_comma", "", "open_list")];
    let text = |mark: char, last: &str| format!("t = {{\n  1{mark}\n  2{mark}\n  3{last}\n}}\n");
    assert_eq!(lay_with("lua", &open, &text(';', "")), text(';', ";"));
    assert_eq!(lay_with("lua", &open, &text(',', "")), text(',', ","));
    assert_eq!(lay_with("lua", &[("last_comma", "", "never")], &text(';', ";")), text(';', ""));
}

#[test]
fn a_statements_end_goes_where_what_is_behind_it_gets_a_line() {
    let laid = lay("lua", "\
local a = 1; local b = 2
function M.ebb() c(); d()
e(); return f; end
g();
(h or i)()
");
    insta::assert_snapshot!(laid, @"
    local a = 1
    local b = 2
    function M.ebb()
      c()
      d()
      e()
      return f
    end
    g();
    (h or i)()
    ");
    let text = "j(); (k or l)()\n";
    assert_eq!(lay("lua", text), "j();\n(k or l)()\n");
}

/// Several values go below their sign before they are divided; the sign stands with them where somebody put it so.
#[test]
fn several_values_stand_below_their_names() {
    insta::assert_snapshot!(lay("lua", "\
local sin, cos
   = math.sin, math.cos
local assert, pairs, ipairs, setmetatable, table, rawget, kind, number = assert, pairs, ipairs, setmetatable, table, rawget, type, tonumber
local level
   = 2
local ebb, flood =
   1, 2
ebb, flood = springTide, neapTide, surge, level, gauge, buoy, springTide, neapTide, surge, level, gauge, buoy, highest, lowest
"), @"
    local sin, cos
      = math.sin, math.cos
    local assert, pairs, ipairs, setmetatable, table, rawget, kind, number =
      assert, pairs, ipairs, setmetatable, table, rawget, type, tonumber
    local level = 2
    local ebb, flood = 1, 2
    ebb, flood = springTide, neapTide, surge, level, gauge, buoy, springTide, neapTide, surge, level,
      gauge, buoy, highest, lowest
    ");
}
