//! How Ruby is laid out.

use crate::languages::testing::{faults, lay, lay_with, touched};

#[test]
fn statements_are_laid_out() {
    insta::assert_snapshot!(lay("ruby", "\
if a then b( )
elsif c
  d
else
e
end
unless a;b;end
while a
b
end
until a do b end
for x,y in  z do w end
begin
a
rescue B,C=>e
d
else
 e
ensure
f
end
case a
  when 1,2 then b
  when *c
   d
  else
e
end
a  if b
begin;a;end while  b
a rescue b
return a,b   if c
x=if a
b
end
BEGIN{a}
alias  b c
undef b,c
"), @"
    if a
      b()
    elsif c
      d
    else
      e
    end
    unless a; b; end
    while a
      b
    end
    until a do b end
    for x, y in z do w end
    begin
      a
    rescue B, C => e
      d
    else
      e
    ensure
      f
    end
    case a
    when 1, 2 then b
    when *c
      d
    else
      e
    end
    a if b
    begin; a; end while b
    a rescue b
    return a, b if c
    x = if a
      b
    end
    BEGIN { a }
    alias b c
    undef b, c
    ");
}

#[test]
fn expressions_are_laid_out() {
    insta::assert_snapshot!(lay("ruby", "\
a=-b+!c*d/e if not f
a=b << c|d& e ; a||=b
a=[1,2 ,3,]; b={:a=>1,b: 2,'c':3,\"d\"=>4,**e}
a=b[1,2][ 3 ]
a . b&.c( d,*e,**f,&g )
a=b ? c:d
a=1 .. 2; b=(1..); c=(..2)
puts a,b: c
puts (a+b)*2
puts(a)
yield a
yield( a )
yield (a), b
a,(b,*c)=d,e
a=->(b,c=1){b}
a=-> b do c end
a=lambda{|b|c}
a{|b,(c,d),*e;f|g;h}
a do|b|
c
end
defined? a
defined?(a)
a=%w( b c )+%i[d]
a=\"b\" 'c'
a='b' \\
   'c'
a=b.c d do end
"), @r#"
    a = -b + !c * d / e if not f
    a = b << c | d & e; a ||= b
    a = [1, 2, 3]; b = { :a => 1, b: 2, 'c': 3, "d" => 4, **e }
    a = b[1, 2][3]
    a.b&.c(d, *e, **f, &g)
    a = b ? c : d
    a = 1..2; b = (1..); c = (..2)
    puts a, b: c
    puts (a + b) * 2
    puts(a)
    yield a
    yield(a)
    yield (a), b
    a, (b, *c) = d, e
    a = ->(b, c = 1) { b }
    a = -> b do c end
    a = lambda { |b| c }
    a { |b, (c, d), *e; f| g; h }
    a do |b|
      c
    end
    defined? a
    defined?(a)
    a = %w(b c) + %i[d]
    a = "b" 'c'
    a = 'b' \
       'c'
    a = b.c d do end
    "#);
}

#[test]
fn declarations_are_laid_out() {
    insta::assert_snapshot!(lay("ruby", "\
class A<B
attr_reader :b
def c( d,e=1,*f,g:,h: 2,**i,&j )
k
end
def self.l() =m
def n;end
private
def o p,q
r
rescue S
t
end
class<<self
def +(u) v end
end
private def w
x
end
alias y w
end
module A::B; end
class C; end
def (a).b=(c) end
"), @"
    class A < B
      attr_reader :b

      def c(d, e = 1, *f, g:, h: 2, **i, &j)
        k
      end

      def self.l() = m
      def n; end

      private

      def o p, q
        r
      rescue S
        t
      end

      class << self
        def +(u)
          v
        end
      end

      private def w
        x
      end
      alias y w
    end
    module A::B; end
    class C; end
    def (a).b=(c) end
    ");
}

#[test]
fn patterns_are_laid_out() {
    insta::assert_snapshot!(lay("ruby", "\
case a
in {b:,c: Integer=>d,**rest} if e
1
in [f,*,g]|nil then 2
in H(i:,j: [k])
in ^l
in ^(m+1)
in n,*o
end
a=>{b: }
p a in [ Integer ]
"), @"
    case a
    in { b:, c: Integer => d, **rest } if e
      1
    in [f, *, g] | nil then 2
    in H(i:, j: [k])
    in ^l
    in ^(m + 1)
    in n, *o
    end
    a => { b: }
    p a in [Integer]
    ");
}

#[test]
fn a_text_behind_its_line_stays_and_so_does_what_announces_it() {
    let text = "\
def a
  b(<<~C, d) do |e|
  \tc #{d}
    C
    f
  end
  g <<-H, <<I # why
  h
  H
i
I
end
";
    assert_eq!(lay("ruby", text), text);
    insta::assert_snapshot!(lay("ruby", "\
a( <<~B,c,
  b
B
   d:1 )
a(
 <<~B,
   b
 B
  c
)
a=<<~B.strip  
b
B
a(long_argument_of_the_harbour, long_argument_of_the_harbour, <<~B, long_argument_of_the_harbour, long_argument)
b
B
"), @"
    a(<<~B, c,
      b
    B
       d: 1)
    a(
      <<~B,
       b
     B
      c
    )
    a = <<~B.strip
    b
    B
    a(long_argument_of_the_harbour, long_argument_of_the_harbour, <<~B, long_argument_of_the_harbour, long_argument)
    b
    B
    ");
}

#[test]
fn a_block_of_ends_of_statements_alone_stays() {
    let text = "quay.within { ; }\n";
    assert_eq!(lay("ruby", text), text);
    assert_eq!(lay_with("ruby", &[("flat_block", "", "open")], text), text);
}

#[test]
fn a_text_may_begin_with_the_mark_that_joins_lines() {
    let text = "puts <<-TIDE\n\\e[1mEbb\\e[0m\n  TIDE\nputs 1\n";
    assert_eq!(lay("ruby", text), text);
    let returns = lay_with("ruby", &[("end_of_line", "", "crlf")], text);
    assert_eq!(returns, "puts <<-TIDE\n\\e[1mEbb\\e[0m\n  TIDE\r\nputs 1\r\n");
}

#[test]
fn what_touches_a_text_that_nobody_runs_is_kept_to_the_byte() {
    let text =
        "a = 1\n\n=begin\n  why\n=end\ndef b\n=begin\n  why\n=end\n  c\nend\n__END__\n d  \n\n\n";
    assert_eq!(lay("ruby", text), text);
}

#[test]
fn a_block_stands_under_its_word_where_somebody_put_it_there() {
    let text = "\
a = if b
      c
    else
      d
    end
a = if b
  c
end
e = case f
    when 1
      g
    end
h.i = j.map do |k|
        l
      end
";
    assert_eq!(lay("ruby", text), text);
    insta::assert_snapshot!(touched("ruby", "x= if a\n     b\n   end\n", "y= if a\n     b\n   end\n"), @"
    y = if a
      b
    end
    ");
}

#[test]
fn a_block_on_its_line_stays_or_is_opened() {
    let text = "def a; b; end\nif c then d else e end\nf { |g| h }\ncase i\nwhen 1 then j\nend\nclass K; end\n";
    assert_eq!(lay_with("ruby", &[("flat_block", "", "keep")], text), text);
    // As the style guide has it, methods are opened, but for those that hold nothing.
    let opened = "def a\n  b\nend\n\ndef c; end\n";
    assert_eq!(lay("ruby", "def a; b; end\n\ndef c; end\n"), opened);
    insta::assert_snapshot!(lay_with("ruby", &[("flat_block", "", "open")], text), @"
    def a
      b
    end

    if c
      d
    else
      e
    end
    f { |g|
      h
    }
    case i
    when 1
      j
    end
    class K; end
    ");
}

#[test]
fn a_chain_breaks_where_the_canon_has_its_dots() {
    let text = "a.\n  b(1).\n  c { |d| e }\nf\n  .g(1)\n  .h\n";
    insta::assert_snapshot!(lay("ruby", text), @"
    a
      .b(1)
      .c { |d| e }
    f
      .g(1)
      .h
    ");
    insta::assert_snapshot!(lay_with("ruby", &[("dot_place", "", "trails")], text), @"
    a.
      b(1).
      c { |d| e }
    f.
      g(1).
      h
    ");
    assert_eq!(lay_with("ruby", &[("dot_place", "", "keep")], text), text);
}

#[test]
fn no_line_ends_between_a_point_and_what_it_calls_with() {
    let style = [("dot_place", "", "trails"), ("max_line_length", "", "40")];
    let text = "warn(Tide.(:ebb_of_today).level, :at_the_quay)\n";
    let wanted = "warn(\n  Tide.(:ebb_of_today).level,\n  :at_the_quay\n)\n";
    assert_eq!(lay_with("ruby", &style, text), wanted);
}

#[test]
fn a_sign_that_blanks_would_make_another_one_stays_as_it_stands() {
    let apart = [("inner_gap", "parens", "true")];
    assert_eq!(lay_with("ruby", &apart, "warn(tide, level&)\n"), "warn( tide, level&)\n");
}

#[test]
fn a_sign_and_what_it_stands_before_are_read_as_before() {
    let text = "level = - 2.abs\nlevel = -  tide\n";
    assert_eq!(lay("ruby", text), "level = - 2.abs\nlevel = -tide\n");
    let tight = [("operator_gap", "sum", "false")];
    let joined = "level = ebb \\\n  - flood\n";
    assert_eq!(lay_with("ruby", &tight, joined), joined);
}

#[test]
fn a_comment_right_below_a_method_belongs_to_it() {
    let text = "def ebb\n  1\nend\n# neaps:end\n\n# Rises.\ndef flood\n  2\nend\n";
    assert_eq!(lay("ruby", text), text);
    let joined = text.replace("# neaps:end\n\n", "");
    assert_eq!(lay("ruby", &joined), joined.replace("end\n#", "end\n\n#"));
}

#[test]
fn methods_and_words_of_access_have_a_blank_line() {
    insta::assert_snapshot!(lay("ruby", "\
class A
  attr_reader :b
  def c
    d
  end
  def e; end
  def f; end
  # why
  def g
    h
  end
  alias i g
  private :g
  protected
  j
end
"), @"
    class A
      attr_reader :b

      def c
        d
      end

      def e; end
      def f; end

      # why
      def g
        h
      end
      alias i g
      private :g

      protected

      j
    end
    ");
}

#[test]
fn a_module_stands_as_it_does_around_what_it_holds() {
    let text = "module A\nclass B\n  C = 1\nend\nend\n";
    assert_eq!(lay_with("ruby", &[("namespace_indent", "", "keep")], text), text);
    let said = "module A\nclass B\n  C = 1\nend\n# The last word.\nend\n";
    assert_eq!(lay_with("ruby", &[("namespace_indent", "", "false")], said), said);
    insta::assert_snapshot!(lay("ruby", text), @"
    module A
      class B
        C = 1
      end
    end
    ");
}

/// Members behind an access word are beside it, or a block of its own with its last comment; the word may
/// stand under its class. What stands in one of these ways does not move where each is kept.
#[test]
fn access_words_stand_as_agreed() {
    let method = |name: &str| format!("def {name}\n1\nend\n");
    let last = "# the last\nend\n";
    let text = format!(
        "class Gauge\n{}\nprivate\n\n{}\nprotected\n\n{}{last}",
        method("ebb"),
        method("flood"),
        method("spring")
    );
    let as_agreed = |value: &str| lay_with("ruby", &[("access_indent", "", value)], &text);
    for value in ["beside", "out", "members_in"] {
        let laid = as_agreed(value);
        assert_eq!(lay_with("ruby", &[("access_indent", "", "keep")], &laid), laid, "{value}");
    }
    insta::assert_snapshot!(as_agreed("beside"), @"
    class Gauge
      def ebb
        1
      end

      private

      def flood
        1
      end

      protected

      def spring
        1
      end
      # the last
    end
    ");
    let out = as_agreed("beside")
        .replace("  private", "private")
        .replace("  protected", "protected");
    assert_eq!(as_agreed("out"), out);
    insta::assert_snapshot!(as_agreed("members_in"), @"
    class Gauge
      def ebb
        1
      end

      private
        def flood
          1
        end

      protected
        def spring
          1
        end
        # the last
    end
    ");
    let close = "module Quay\n  private\n    def ebb\n      1\n    end\nend\n";
    assert_eq!(lay_with("ruby", &[("access_indent", "", "members_in")], close), close);
    let block = "Gauge = Class.new do\nprivate\n\n  def ebb = 1\nend\n";
    assert_eq!(lay_with("ruby", &[("access_indent", "", "keep")], block), block);
    // A method that has such a name is no access word.
    let call = "def ebb\n  private\n\n  1\nend\n";
    assert_eq!(lay_with("ruby", &[("access_indent", "", "members_in")], call), call);
}

#[test]
fn quotes_change_where_they_hold_the_same() {
    let text = "a \"b\", 'c', \"d\\n\", \"#{e}\", 'f\\'', '#{g}'\n";
    insta::assert_snapshot!(lay_with("ruby", &[("quotes", "", "single")], text), @r##"a 'b', 'c', "d\n", "#{e}", 'f\'', '#{g}'"##);
    insta::assert_snapshot!(lay_with("ruby", &[("quotes", "", "double")], text), @r##"a "b", "c", "d\n", "#{e}", 'f\'', '#{g}'"##);
}

#[test]
fn what_does_not_parse_is_a_fault() {
    assert_eq!(faults("ruby", "def a\n  b(\nend\n").len(), 1);
    assert!(faults("ruby", "def a\n  b\nend\n").is_empty());
}

/// A value in several lines stays below its sign, where somebody put it; a bracket does not.
#[test]
fn a_value_in_lines_stays_below_its_sign() {
    let text = "\
draw(
  title:
    (quay_of_the_harbour ? quay_of_the_harbour.name : office_of_the_town) +
      \": tides of the harbour\",
  :on_click =>
    \"load('tides', \" \\
    \"'saltmarsh')\",
  gauges:
    {
      ebb: 1
    }
)
";
    let wanted = text.replace("gauges:\n    {\n      ebb: 1\n    }", "gauges: {\n    ebb: 1\n  }");
    assert_eq!(lay("ruby", text), wanted);
}

/// `if` below its key stays there, as below the name of a variable.
#[test]
fn an_answer_in_lines_stays_below_its_key() {
    let text = "\
draw(gauges,
     title:
       if high
         1
       else
         2
       end,
     quay:
       gauges.each do |gauge|
         read(gauge)
       end)
";
    assert_eq!(lay("ruby", text), text);
    let sign = "tides = {\n  \"quay\" =>\n    if high\n      1\n    end,\n}\n";
    assert_eq!(lay("ruby", sign), sign);
}

/// One call that begins a line stays where somebody put it, unless the line would be a short one.
#[test]
fn a_lone_call_stays_on_its_line() {
    let text = "\
tides = gauges_of_the_outer_harbour
  .map { |gauge, number| perform_reading(gauge, environment, number) }
ebb = gauges.map { |gauge| gauge.level }
";
    assert_eq!(lay("ruby", text), text);
    let trailing = text.replace("harbour\n  .map", "harbour.\n  map");
    assert_eq!(lay("ruby", &trailing), text);
    let short = text.replace("gauges.map", "gauges\n  .map");
    assert_eq!(lay("ruby", &short), text);
}

/// A variable of an object begins with a mark that no operator takes for its own.
#[test]
fn operators_touch_what_belongs_to_an_object() {
    let text = "level = 10**@scale\n";
    assert_eq!(lay("ruby", text), text);
    assert_eq!(lay("ruby", "level = 10 ** @scale\n"), text);
}

/// Behind a block that has no name stands no blank: an operator would come of it.
#[test]
fn a_block_without_a_name_stands_beside_its_bracket() {
    let style = [("inner_gap", "parens", "true"), ("max_line_length", "", "20")];
    let text = "def tides(&)\n  sort(&)\n  sort(level, ebb_tide, &)\nend\n";
    insta::assert_snapshot!(lay_with("ruby", &style, text), @"
    def tides( & )
      sort( &)
      sort(
        level,
        ebb_tide,
        &)
    end
    ");
}

#[test]
fn a_call_right_above_a_method_speaks_of_that() {
    let text = "\
class Gauge
  include Tidal
  sig { void }
  def ebb
    1
  end

  desc 'flood', 'Shows the flood'
  option :metres
  def flood
    2
  end

  attr_reader :level
  def slack
    3
  end
end
";
    let wanted = text.replace("Tidal\n", "Tidal\n\n").replace(":level\n", ":level\n\n");
    assert_eq!(lay("ruby", text), wanted);
}

/// Values behind a joined line keep their lines, and stand where the first of them does.
#[test]
fn values_behind_a_joined_line_stand_below_each_other() {
    let text = "assert_equal \\\n  [expected.value, expected.version, expected.expires_at],\n  [actual.value, actual.version, actual.expires_at]\nwarn \\\n  quay,\n  level: 1\n";
    assert_eq!(lay("ruby", text), text);
    assert_eq!(lay("ruby", &text.replace("  level: 1", "     level:  1")), text);
    let said = text.replace("quay,", "quay, # A comment.");
    assert_eq!(lay("ruby", &said), said);
    assert_eq!(lay_with("ruby", &[("wrap_align", "call", "step")], &said), said);
}

/// A chain's first call stays with the class that it begins with, and a method that is given nothing goes on
/// behind the bracket of one that is given several things.
#[test]
fn what_is_called_on_a_class_stays_with_it() {
    let narrow = [("max_line_length", "", "40")];
    let lines = |text: &str, wanted: &str| {
        assert_eq!(lay_with("ruby", &narrow, text), wanted);
        assert_eq!(lay_with("ruby", &narrow, wanted), wanted);
    };
    lines(
        "Tide::Gauge.new(quay, mole_of_the_harbour).read\n",
        "Tide::Gauge.new(\n  quay,\n  mole_of_the_harbour\n).read\n",
    );
    lines(
        "level = self.class::LEVELS.merge(ebb => 1, flood => 2).freeze\n",
        "level = self.class::LEVELS.merge(\n  ebb => 1,\n  flood => 2\n).freeze\n",
    );
    lines(
        "Gauge.where(mole_of_the_harbour).ordered.limited(2)\n",
        "Gauge.where(mole_of_the_harbour)\n  .ordered\n  .limited(2)\n",
    );
    lines(
        "@gauges.select(&:rings).sort_by(&:level).first\n",
        "@gauges\n  .select(&:rings)\n  .sort_by(&:level)\n  .first\n",
    );
}

/// Where lines are no choice, those of a chain are none.
#[test]
fn a_list_in_lines_has_the_same_chain_wherever_its_lines_ended() {
    let style = [("list_wrap", "", "one_each")];
    for calls in ["].compact.join(mole)", "]\n  .compact.join(mole)", "].compact\n  .join(mole)"] {
        let laid = lay_with("ruby", &style, &format!("[ebb, flood{calls}.freeze\n"));
        assert_eq!(laid, "[\n  ebb,\n  flood\n].compact\n  .join(mole)\n  .freeze\n", "{calls}");
    }
}

#[test]
fn a_sign_behind_a_question_touches_nothing() {
    let style = [("operator_gap", "", "false")];
    let laid = lay_with("ruby", &style, "level = mole.ebb? ** 2\nlow = mole.low! - 1\n");
    assert!(!laid.contains("? **2") && !laid.contains("! -1"), "{laid}");
}

#[test]
fn statements_share_no_rows() {
    let rows = [
        ("list_wrap", "", "rows"),
        ("flat_block", "function", "keep"),
        ("max_line_length", "", "33"),
    ];
    let text = "class Tide\ndef initialize(obj); ebb; foo; end\nend\n";
    insta::assert_snapshot!(lay_with("ruby", &rows, text), @"
    class Tide
      def initialize(obj)
        ebb
        foo
      end
    end
    ");
}

#[test]
fn a_statements_end_goes_where_the_word_behind_it_gets_a_line() {
    let laid = lay("ruby", "\
def ebb
  a; b
  c; end
if a; b
  c; else
  d; end
case a when 1 then b; else c; end
begin; a
rescue; b; end
");
    insta::assert_snapshot!(laid, @"
    def ebb
      a; b
      c
    end

    if a
      b
      c
    else
      d
    end
    case a when 1 then b; else c; end
    begin
      a
    rescue; b
    end
    ");
}

/// Right below `case` is no step further in, wherever that stands.
#[test]
fn what_stands_below_its_case_may_keep_its_place() {
    let text = "\
level = case tide
        when :ebb then 1
        else 2
        end
case tide
  when :ebb then 1
end
case tide
when :ebb then 1
end
";
    assert_eq!(lay_with("ruby", &[("case_indent", "", "keep")], text), text);
}
