//! Touched lines in Ruby, kept otherwise than the canon has it.

use crate::support::{Repo, each_touched, edited};

/// As somebody keeps it by hand.
const OFFICE: &str = r#"require 'date'
module Office
  class Quay<Place
    LEVELS={:low=>1,
            :high=>4}
    NAMES = %w( north  south )
    TEXT=<<-EOS.strip
      the tide
        is high
    EOS

    def initialize( name,level=0 )
        @name=name
        @level = level
    end

    def read(at) ; @level+at ; end

    def warn?
      if @level>4 then puts 'high' else rest end
      state = if @level>2
                :flood
              else
                :ebb
              end
      case state
        when :flood,:spring then 1
        when :ebb
          2
      end
    end

    private
    def listen( *args,&block )
      gauges.select{|g| g.live? }.
        map( &block )
      notify :north,'high',
             level: 5,at: now do |a|
        a.read( args )
      end
      begin
        wait
      rescue Storm,Fog=>e
        log(<<~A, e)
          why #{e}
        A
      end
      raise "no"   unless @level
    end
  end
end
__END__
 data
"#;

/// Each case by itself: what stands there, what somebody makes of it, and what becomes of that.
/// Nothing else in the file changes.
const CASES: [(&str, &str, &str); 25] = [
    ("require 'date'\n", "require 'date'\nrequire  'set'\n", "require 'date'\nrequire 'set'\n"),
    ("  class Quay<Place", "  class Key<Place", "  class Key < Place"),
    ("    LEVELS={:low=>1,", "    LEVELS={:low=>2,", "    LEVELS = { :low => 2,"),
    ("            :high=>4}", "            :high=>5}", "            :high => 5 }"),
    (
        "    NAMES = %w( north  south )",
        "    NAMES = %w( north  west )",
        "    NAMES = %w(north west)",
    ),
    ("    TEXT=<<-EOS.strip", "    TEXT=<<-EOS.strip( )", "    TEXT = <<-EOS.strip()"),
    ("        is high\n", "          is low  \n", "          is low  \n"),
    (
        "    def initialize( name,level=0 )",
        "    def initialize( name,level=1 )",
        "    def initialize(name, level = 1)",
    ),
    ("        @name=name", "       @name=name.to_s", "        @name = name.to_s"),
    (
        "    def read(at) ; @level+at ; end",
        "    def read(at) ; @level-at ; end",
        "    def read(at)\n      @level - at\n    end",
    ),
    (
        "      if @level>4 then puts 'high' else rest end",
        "      if @level>5 then puts 'high' else rest end",
        "      if @level > 5 then puts 'high' else rest end",
    ),
    (
        "      state = if @level>2",
        "      state = if @level>3",
        "      state = if @level > 3",
    ),
    ("                :ebb\n", "             :low\n", "                :low\n"),
    (
        "        when :flood,:spring then 1",
        "        when :flood,:neap then 1",
        "        when :flood, :neap then 1",
    ),
    ("          2\n", "         3\n", "          3\n"),
    ("    private\n", "    protected\n", "    protected\n"),
    (
        "    def listen( *args,&block )",
        "    def listen( *args,x:,&block )",
        "    def listen(*args, x:, &block)",
    ),
    (
        "      notify :north,'high',\n             level: 5,at: now do |a|",
        "      notify :north,'low',\n             level: 5,at: later do |a|",
        "      notify :north, 'low',\n             level: 5, at: later do |a|",
    ),
    ("        a.read( args )", "       a.read( args,1 )", "        a.read(args, 1)"),
    ("        wait\n", "        wait\n       listen( )\n", "        wait\n        listen()\n"),
    ("      rescue Storm,Fog=>e", "      rescue Storm,Mist=>e", "      rescue Storm, Mist => e"),
    ("        log(<<~A, e)", "        log(<<~A,e,1)", "        log(<<~A, e, 1)"),
    ("          why #{e}\n", "         why #{ e }\n", "         why #{ e }\n"),
    (
        "      raise \"no\"   unless @level",
        "      raise 'no'   unless @level",
        "      raise 'no' unless @level",
    ),
    (" data\n", "  data  \n", "  data  \n"),
];

#[test]
fn a_touched_line_and_no_other() {
    each_touched("office.rb", OFFICE, &CASES);
}

#[test]
fn statements_that_somebody_wrapped_move_with_their_words() {
    let canon = ("kanonix.toml", "edition = 1\n");
    let from = "      case state\n        when :flood,:spring then 1\n        when :ebb\n          2\n      end\n";
    let to = format!("      unless dry?\n{from}      end\n");
    let wanted = "      unless dry?\n        case state\n          when :flood,:spring then 1\n          when :ebb\n            2\n        end\n      end\n";
    let mended = edited(&[canon, ("office.rb", OFFICE)], "office.rb", from, &to);
    assert_eq!(mended, OFFICE.replacen(from, wanted, 1));
}

#[test]
fn a_text_behind_its_line_stays_where_the_code_around_it_moves() {
    let canon = ("kanonix.toml", "edition = 1\n");
    let from = "        log(<<~A, e)\n          why #{e}\n        A\n";
    let to = format!("        if e\n{from}        end\n");
    let wanted =
        "        if e\n          log(<<~A, e)\n          why #{e}\n        A\n        end\n";
    let mended = edited(&[canon, ("office.rb", OFFICE)], "office.rb", from, &to);
    assert_eq!(mended, OFFICE.replacen(from, wanted, 1));
}

#[test]
fn a_word_too_many_is_a_fault_and_so_is_a_bracket_too_few() {
    let canon = ("kanonix.toml", "edition = 1\n");
    let repo = Repo::with(&[canon, ("office.rb", OFFICE)]);
    repo.edit("office.rb", "__END__", "end\n__END__");
    let checked = repo.kanonix(&["check"]);
    assert!(checked.out.contains("does not parse"), "{}", checked.out);
    let repo = Repo::with(&[canon, ("office.rb", OFFICE)]);
    repo.edit("office.rb", "        @level = level\n", "        @level = (level\n");
    let checked = repo.kanonix(&["check"]);
    assert!(checked.out.contains("does not parse"), "{}", checked.out);
    repo.kanonix(&["mend"]);
    assert!(repo.read("office.rb").contains("        @level = (level\n"));
}
