//! How pages are laid out that are templates.

use super::ORDER;
use crate::languages::testing::{lay, lay_with, touched};

#[test]
fn a_templates_comment_keeps_the_lines_inside_it() {
    for (opens, closes) in [("{#", "#}"), ("{{/*", "*/}}")] {
        let page = format!(
            "<div>\n  {opens} why:\n      this\n        and that\n   {closes}\n  <p>x</p>\n</div>\n"
        );
        assert_eq!(lay("html", &page), page);
    }
}

#[test]
fn a_control_word_may_touch_the_name_of_a_tag() {
    let page = "\
<ul>
  <li{% if high %} class=\"high\"{% endif %}>
    ebb
  </li>
  <li{{ if .High }} class=\"high\"{{ end }}>flood</li>
</ul>
<h{{ .Level }}>Tides</h{{ .Level }}>
<p>end</p>
";
    assert_eq!(lay("html", page), page);
    assert_eq!(lay("html", &page.replace("\n    ebb", "\n ebb").replace("\n  ", "\n      ")), page);
}

#[test]
fn what_shares_its_line_with_a_control_word_stays_there() {
    for page in [
        "<div>\n  <h1>Tides</h1>\n  {% if ebb %}<p>Ebb</p>{% endif %}\n</div>\n",
        "<ul>\n  {{ range .Tides }}<li>{{ . }}</li>{{ end }}\n</ul>\n",
        "{% if wide %}<div>{% endif %}\n<p>Ebb</p>\n{% if wide %}</div>{% endif %}\n{{ foot }}\n",
    ] {
        assert_eq!(lay("html", page), page);
    }
    let spread = "<div>\n  {% if ebb %}\n    <p>Ebb</p>\n  {% endif %}\n</div>\n";
    assert_eq!(lay("html", &spread.replace("    <p>", "<p>")), spread);
}

#[test]
fn a_comment_that_a_control_word_holds_last_stays_further_in_than_it() {
    let page = "<div>\n  {% if a %}\n    <p>x</p>\n    <!-- one -->\n  {% else %}\n    <!-- two -->\n  {% endif %}\n  <!-- three -->\n</div>\n";
    assert_eq!(lay("html", page), page);
    assert_eq!(lay("html", &page.replace("    <!-- one", "     <!-- one")), page);
}

#[test]
fn a_control_word_may_have_a_comment_behind_it() {
    let text = "<div>\n  {% if a %} {# ebb #}\n    <p>b</p>\n  {% elif c %}{# flood #}\n    <p>d</p>\n  {% endif %} {# slack #}\n</div>\n";
    assert_eq!(lay("html", text), text);
    let bare: String = text.lines().map(|line| format!("{}\n", line.trim_start())).collect();
    assert_eq!(lay_with("html", &[("page_indent", "control", "true")], &bare), text);
}

#[test]
fn a_text_in_the_plural_stands_as_the_one_in_the_singular() {
    let text = "<p>\n  {% trans count=n %}\n    One tide.\n  {% pluralize %}\n    {{ n }} tides.\n  {% endtrans %}\n</p>\n";
    let bare: String = text.lines().map(|line| format!("{}\n", line.trim_start())).collect();
    assert_eq!(
        lay_with(
            "html",
            &[("page_indent", "control", "true"), ("page_indent", "text", "true")],
            &bare
        ),
        text
    );
}

#[test]
fn control_words_indent_what_they_hold_where_both_ends_stand_at_one_level() {
    insta::assert_snapshot!(lay_with("html", &[("page_indent", "control", "true")], "\
{% extends \"base.html\" %}
{% block tides %}
<ul>
{%- for tide in tides %}
<li>{{ tide.at }}</li>
{% if tide.high %}
<li>{% trans \"High\" %}</li>
{% elif tide.low -%}
<li>low</li>
{% endif %}
{% endfor %}
</ul>
{% endblock %}
{{#each gauges}}
<p>{{name}}</p>
{{/each}}
{% if open %}
<div>
{% else %}
</div>
{% endif %}
"), @r#"
    {% extends "base.html" %}
    {% block tides %}
      <ul>
        {%- for tide in tides %}
          <li>{{ tide.at }}</li>
          {% if tide.high %}
            <li>{% trans "High" %}</li>
          {% elif tide.low -%}
            <li>low</li>
          {% endif %}
        {% endfor %}
      </ul>
    {% endblock %}
    {{#each gauges}}
      <p>{{name}}</p>
    {{/each}}
    {% if open %}
    <div>
    {% else %}
    </div>
    {% endif %}
    "#);
}

#[test]
fn a_word_that_has_no_end_takes_nothing_from_the_one_around_it() {
    let text =
        "{% if a %}\n  {% include \"ebb.html\" %}\n{% else %}\n  <p>Flood</p>\n{% endif %}\n";
    assert_eq!(lay_with("html", &[("page_indent", "control", "true")], text), text);
    let (open, close) = ("{{ if .A }}\n".repeat(4_000), "{{ end }}\n".repeat(4_000));
    let style = crate::languages::testing::style("html", &[("page_indent", "control", "true")]);
    let html = crate::languages::by_name("html").unwrap();
    for inside in ["<p>ebb</p>\n", "ebb\n  and flood\n"] {
        let deep = format!("{open}{inside}{close}");
        assert!(crate::mend(&deep, html, &style, &crate::text::LineSet::whole()).is_ok());
    }
}

#[test]
fn actions_break_nothing_around_them_and_stay_as_they_stand() {
    let text = "\
<p {{ if gt .Level 3 }}class=\"high\"  {{ end }}id='quay'>{{ .Name  }} < {{ \"a > b\" }}</p>
<a href=\"{{ url  \"quay\" }}\"   title='{% trans \"It's\" %}'>{{ a(1,
      2) }}</a>
<script>
let  a={{ .Level }};
</script>
";
    let wanted = text.replace("   title", " title").replace("'quay'", "\"quay\"");
    assert_eq!(lay("html", text), wanted);
}

#[test]
fn what_a_template_makes_of_a_class_keeps_its_place() {
    let text =
        "<p class=\"p-4 flex {{ if .Ebb }}p-4 flex p-{{ .A }} p-4 flex{{ end }} p-4 flex\">a</p>\n";
    let laid = lay_with("html", &ORDER, text);
    let wanted =
        "<p class=\"flex p-4 {{ if .Ebb }}p-4 flex p-{{ .A }} p-4 flex{{ end }} flex p-4\">a</p>\n";
    assert_eq!(laid, wanted);
    for odd in ["<?= $a ?> p-4 flex", "${a ? 'p-4 flex' : b}", "p-4 {a b} flex", "p-4 {{ flex"] {
        let text = format!("<p class=\"{odd}\">a</p>\n");
        assert_eq!(lay_with("html", &ORDER, &text), text);
    }
}

#[test]
fn what_an_inner_control_word_holds_says_nothing_of_the_one_around_it() {
    let page = "\
{% block tides %}
{% if ebb %}
  <p>
    {{ level }}
  </p>
  <p>
    low
  </p>
{% endif %}
{% endblock %}
{% block storms %}
{% endblock %}
";
    assert_eq!(lay("html", page), page);
    let now = page.replace("{% if ebb %}", "{% if ebb  %}");
    assert_eq!(touched("html", page, &now), now);
}

#[test]
fn a_comment_ends_nothing_and_may_hold_what_an_action_ends_with() {
    let page = "\
{{- /*
  Called so: {{ template \"tides\" }}
*/}}
{{- if .High }}
  {{- /* Spring tide. */}}
  {{- template \"siren\" }}
{{- end }}{{/* of the siren */}}
{{!-- {{#if ebb}} --}}
{{#if ebb}}
  {{! low }}
  <p>{{ebb}}</p>
{{/if}}
<p>{{ .Low }}</p>
";
    let bare: String = page
        .lines()
        .map(|line| match line.starts_with("  Called") {
            true => format!("{line}\n"),
            false => format!("{}\n", line.trim_start()),
        })
        .collect();
    assert_eq!(lay_with("html", &[("page_indent", "control", "true")], &bare), page);
    assert_eq!(lay("html", page), page);
}

#[test]
fn a_control_word_may_take_several_lines() {
    let page = "\
{% if ebb
    and (low
    or lower) %}
  <p>Ebb</p>
{% else %}
  <p>Flood</p>
{% endif %}
";
    let bare = page.replace("\n  <", "\n<");
    assert_eq!(lay_with("html", &[("page_indent", "control", "true")], &bare), page);
    assert_eq!(lay("html", page), page);
    // What is below one does not hang on its last line.
    let page = "{% set low = ebb and\n             lower %}\n{# why #}\n{{ low }}\n<p>a</p>\n";
    assert_eq!(lay("html", page), page);
}

#[test]
fn each_branch_is_as_far_in_as_most_of_its_lines_are() {
    let page = "\
{% if ebb %}
  <p>Ebb</p>
  <p>Low</p>
{% else %}
<p>Flood</p>
<p>High</p>
<p>Higher</p>
<p>Spring</p>
{% endif %}
";
    assert_eq!(lay("html", page), page);
    let now = page.replace("<p>High</p>", "  <p>high</p>");
    assert_eq!(touched("html", page, &now), page.replace("High<", "high<"));
}

#[test]
fn what_holds_a_control_word_without_its_other_one_stays_as_it_stands() {
    let page = "\
<ul>
  <li>
    {% if levels %}
        {% if plain %}
          <b>Levels</b>
        {% else %}
          <details>
            <summary>Levels</summary>
        {% endif %}
        <table><tr><td>2</td></tr></table>
        {% if not plain %}</details>{% endif %}
    {% endif %}
  </li>
</ul>
";
    assert_eq!(lay("html", page), page);
    let part = "<p>Ebb</p>\n    <p>Low</p>\n  {{ end }}\n<ul>\n<li>a</li>\n</ul>\n";
    let wanted = part.replace("<li>", "  <li>");
    assert_eq!(lay("html", part), wanted);
}

#[test]
fn the_lines_of_a_tag_with_actions_in_it_go_with_its_first_one() {
    let page = "\
<div>
<p class=\"quay\"
   {% if high %}title=\"High\"{% endif %}
  id=\"level\">
a
</p>
<p class=\"quay\"
   {% if high
      or higher %}title=\"High\"{% endif %}>
a
</p>
</div>
";
    insta::assert_snapshot!(lay_with("html", &[("page_indent", "text", "true")], page), @r#"
    <div>
      <p class="quay"
         {% if high %}title="High"{% endif %}
        id="level">
        a
      </p>
      <p class="quay"
       {% if high
          or higher %}title="High"{% endif %}>
        a
      </p>
    </div>
    "#);
}

#[test]
fn what_branches_begin_and_end_stays_and_is_laid_out_around() {
    let page = "\
<div>
  <select>
      {% for gauge in gauges %}
        {% if gauge.begins %}
          <optgroup label=\"Quay\">
        {% elif gauge.ends %}
          </optgroup>
        {% else %}
          <option>{{ gauge }}</option>
        {% endif %}
      <option>None</option>
      {% endfor %}
  </select>
</div>
";
    let wanted = page.replace("      {% for", "    {% for").replace("      {% endf", "    {% endf");
    assert_eq!(lay("html", page), wanted);
}

#[test]
fn a_comment_beside_a_control_word_that_goes_on_stays_there() {
    let page = "\
{% if ebb %}
  <p>Ebb</p>
{# The water rises. #}
{# Or stands. #}
{% else %}
  {# The level. #}
  <p>Flood</p>
  {# Nothing. #}
{% endif %}
";
    assert_eq!(lay_with("html", &[("page_indent", "control", "true")], page), page);
}

#[test]
fn a_tag_whose_name_a_template_makes_stays() {
    let page = "<{{ tag }} id='quay'  class='a' >a</{{ tag }}>\n<b id='quay'  >a</b>\n";
    assert_eq!(lay("html", page), page.replace("<b id='quay'  ", "<b id=\"quay\""));
}

#[test]
fn what_stands_behind_an_action_in_a_tag_is_filled_with_what_is_before_it() {
    let page = "\
<div>
  <a href=\"/tides\">{% translate \"Tides of the month\" %}</a> <button>{% translate \"Save\" %}</button>
</div>
";
    let settings = [
        ("text_fill", "", "width"),
        ("list_wrap", "", "fit"),
        ("max_line_length", "", "70"),
    ];
    let wanted = page.replace("</a> <button>", "</a>\n  <button>");
    assert_eq!(lay_with("html", &settings, page), wanted);
}
