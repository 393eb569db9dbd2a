//! What indentation is made of: tabs and spaces together.

use crate::support::{lay_with, mend_marked, style};
use kanonix_core::text::LineSet;
use kanonix_core::{languages, mend};

/// Three columns a step, in tabs of eight.
const MIXED: [(&str, &str, &str); 3] =
    [("indent_style", "", "mixed"), ("indent_size", "", "3"), ("tab_width", "", "8")];

const TEXT: &str = "\
function tide(level)
   if level > high then
      for _, gauge in ipairs(gauges) do
\t -- What it says.
\t gauge:warn(level,
\t\t    unit)
\t if gauge.quiet then
\t    gauge:wake()
\t end
      end
   end
end
";

#[test]
fn tabs_and_spaces_stand_for_the_same_columns() {
    assert_eq!(lay_with("lua", &MIXED, TEXT), TEXT);
    let in_spaces = TEXT.replace('\t', "        ");
    assert_eq!(lay_with("lua", &MIXED, &in_spaces), TEXT);
    let spaces = [("indent_size", "", "3"), ("tab_width", "", "8")];
    assert_eq!(lay_with("lua", &spaces, TEXT), in_spaces);
}

#[test]
fn a_line_in_play_is_as_far_in_as_its_columns_say() {
    let marked = "
 function tide(level)
    if level > high then
       if quiet then
>        wake()
>            warn()
       end
    end
 end
";
    let wanted = "\
function tide(level)
   if level > high then
      if quiet then
\t wake()
\t warn()
      end
   end
end
";
    assert_eq!(mend_marked("lua", &MIXED, marked), wanted);
}

#[test]
fn a_file_in_other_steps_keeps_them_where_it_is_not_in_play() {
    let marked = "
 function tide(level)
     if level > high then
 \twarn()
>\thush()
     end
 end
";
    let wanted = "\
function tide(level)
    if level > high then
\twarn()
\thush()
    end
end
";
    assert_eq!(mend_marked("lua", &MIXED, marked), wanted);
}

#[test]
fn where_indentation_is_syntax_it_is_of_spaces() {
    let text = "def tide():\n   if high:\n      if quiet:\n         wake()\n";
    assert_eq!(lay_with("python", &MIXED, text), text);
}

#[test]
fn code_in_a_page_is_as_far_in_as_its_columns_say() {
    let of = |language: &str, settings: &[(&str, &str, &str)]| style(language, settings);
    let page = of("html", &MIXED).embedding("javascript", of("javascript", &MIXED));
    let text = "<body>\n   <div>\n      <script>\n\t if (ebb) {\n\t    warn();\n\t }\n      </script>\n   </div>\n</body>\n";
    let html = languages::by_name("html").unwrap();
    for present in [text.to_string(), text.replace('\t', "        ")] {
        assert_eq!(mend(&present, html, &page, &LineSet::whole()).unwrap().text, text);
    }
}

#[test]
fn the_later_lines_of_a_comment_go_with_its_first() {
    let settings = [MIXED[0], ("indent_size", "", "4"), MIXED[2]];
    let text = "class Gauge {\n    void read() {\n\t/*\n\t * Low.\n\t */\n\twarn();\n    }\n}\n";
    assert_eq!(lay_with("java", &settings, text), text);
    let shallow = text.replace("\t", "      ");
    assert_eq!(lay_with("java", &settings, &shallow), text);
}

#[test]
fn a_comment_above_an_operator_that_goes_on_stands_by_its_columns() {
    let text = "x = a\n\t\tand b\n\t\t   -- why\n\t\t   and c\n\t\tand d\n\t\tand e\n";
    assert_eq!(lay_with("lua", &MIXED, text), text);
}
