"""Writes the weekly report."""

TITLE = 'Tides at Saltmarsh'  # shown on every page


def lines(week):
    # A heading first.
    yield TITLE


    rows = [
        ("high", max(week)),

        ("low", min(week))
    ]
    for name, value in rows:

        text = "{}: {:.2f} m".format(
            name, value)
        yield text
    yield (
        "measured by the tide office, "
        "and rounded to a centimetre"
    )
    yield from footer(
        week, signed=True  # by the keeper
    )

class Page:

    width = 72

    def draw(self): pass
    def fold(self, text): pass
    # the end of the class

# the end of the file

class Tide: pass
def summary(high, low):
    return describe("the highest water of the week was at the quay, and it was " + str(high), lowest="the lowest was at the mole, late at night, at a level of " + str(low))
