"""Tables as spreadsheet programs, phone apps and laboratories write them: what parts the cells, and what a cell shows."""

import io

import openpyxl
import pytest

from brasspenny.interchange.tables import NotATable, read_table


def rows(text: str, encoding: str = "utf-8"):
    table = read_table(text.encode(encoding), lambda: False)
    return table.headers, [cells for _, cells in table.rows]


@pytest.mark.parametrize(
    ("text", "headers", "first"),
    [
        ("Dose (g; dry),Water,TDS\n18,300,1.42\n", ("Dose (g; dry)", "Water", "TDS"), ("18", "300", "1.42")),
        ("Taste | words,Dose\nsweet,18\n", ("Taste | words", "Dose"), ("sweet", "18")),
        ("Dose;TDS\n18,5;1,42\n", ("Dose", "TDS"), ("18,5", "1,42")),
        ("Dose, g;TDS, %\n18,5;1,42\n", ("Dose, g", "TDS, %"), ("18,5", "1,42")),
        ("sep=;\nDose;TDS\n18;1,42\n", ("Dose", "TDS"), ("18", "1,42")),
        ("sep=|\r\nDose|TDS\r\n18|1.42\r\n", ("Dose", "TDS"), ("18", "1.42")),
        ("Dose\tTDS\n18\t1,42\n", ("Dose", "TDS"), ("18", "1,42")),
        ('Note,Dose\n"thin; sour, though",18\n', ("Note", "Dose"), ("thin; sour, though", "18")),
        ('"Dose; beans",TDS\n18,1.4\n19,1.5\n', ("Dose; beans", "TDS"), ("18", "1.4")),
    ],
)
def test_the_separator_is_the_one_that_the_rows_agree_with(text, headers, first):
    found, cells = rows(text)
    assert (found, cells[0]) == (headers, first)


def test_a_line_that_names_the_separator_keeps_the_numbers_of_the_rows():
    table = read_table(b"sep=;\nDose;TDS\n18;1,42\n", lambda: False)
    assert table.rows[0][0] == 3
    with pytest.raises(NotATable):
        read_table(b"sep=;\n", lambda: False)


def test_a_cell_formatted_as_a_percentage_is_read_as_it_is_shown():
    book = openpyxl.Workbook()
    sheet = book.active
    sheet.append(["TDS", "Yield", "Dose", "Share"])
    sheet.append([0.0142, 0.2034, 18.5, 1])
    for cell, shown in (("A2", "0.00%"), ("B2", "0.0 %"), ("D2", "0%")):
        sheet[cell].number_format = shown
    out = io.BytesIO()
    book.save(out)
    assert read_table(out.getvalue(), lambda: False).rows[0][1] == ("1.42", "20.34", "18.5", "100")
