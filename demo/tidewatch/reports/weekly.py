"""The report that hangs in the harbour office every Monday."""

import json
import textwrap

from reports.tides import mean_range, turning_points

TITLE = "Tides at Saltmarsh"


def table(points):
    rows = [f"{kind:5} {reading.time:%a %H:%M} {reading.metres:6.2f} m" for kind, reading in points]
    return "\n".join(rows)


def render(week, readings, template):
    points = turning_points(readings)
    found = mean_range(points)
    spread = "no tide was measured" if found is None else f"mean range {found:.2f} m"
    return template["page"].format(
        title=TITLE,
        week=week,
        table=textwrap.indent(table(points), "    "),
        spread=spread,
    )


def load_template(path="reports/template.json"):
    with open(path, encoding="utf-8") as file:
        return json.load(file)
