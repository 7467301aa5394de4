package table

import (
	"reflect"
	"slices"
	"strings"
	"testing"
)

func TestRowsAreReadAsTheyWereCopied(t *testing.T) {
	for name, c := range map[string]struct {
		text string
		want [][]string
	}{
		"tabs from a spreadsheet":      {"Harrow\t143\t89\nTern\t120\t68\n", [][]string{{"Harrow", "143", "89"}, {"Tern", "120", "68"}}},
		"semicolons, decimal commas":   {"name;width_mm\nHarrow;143,5\n", [][]string{{"name", "width_mm"}, {"Harrow", "143,5"}}},
		"commas, and a quoted comma":   {"name,notes\nHarrow,\"lent, used\"\n", [][]string{{"name", "notes"}, {"Harrow", "lent, used"}}},
		"a tab goes before semicolons": {"a;b\tc\n", [][]string{{"a;b", "c"}}},
		"line breaks in a cell":        {"a\t\"one\ntwo\"\n", [][]string{{"a", "one\ntwo"}}},
		"rows of unlike length":        {"a\tb\nc\n", [][]string{{"a", "b"}, {"c"}}},
		"empty rows at the end":        {"a\tb\n\t\n \t \n", [][]string{{"a", "b"}}},
		"an empty row between":         {"a\tb\n\t\nc\td", [][]string{{"a", "b"}, {"", ""}, {"c", "d"}}},
		"a byte order mark, returns":   {"\ufeffname,maker\r\nTern,Ost\r\n", [][]string{{"name", "maker"}, {"Tern", "Ost"}}},
		"a quote that is an inch sign": {"10\" wide\t3", [][]string{{"10\" wide", "3"}}},
		"a text kept from a formula":   {"'=A1,'-- soft\n", [][]string{{"=A1", "-- soft"}}},
	} {
		if got, err := Read(c.text); err != nil || !reflect.DeepEqual(got, c.want) {
			t.Errorf("%s: Read(%q) = %q, %v; want %q", name, c.text, got, err, c.want)
		}
	}
}

func TestWhatCannotBeReadIsSaidWithItsLine(t *testing.T) {
	for text, says := range map[string]string{
		"":                          "is empty",
		" \n\t\n":                   "is empty",
		strings.Repeat("a\n", 2001): "more than 2000 rows",
		"a\tb\n" + strings.Repeat("b\t", 60) + "c": "line 2",
		"a,b\nc," + strings.Repeat("x", 20_001):    "line 2",
	} {
		if _, err := Read(text); err == nil || !strings.Contains(err.Error(), says) {
			t.Errorf("Read(%.20q…) = %v, want an error with %q", text, err, says)
		}
	}
	if rows, err := Read(strings.Repeat("a\n", 2000)); err != nil || len(rows) != MostRows {
		t.Errorf("2,000 rows: %d, %v", len(rows), err)
	}
}

func TestNamesOfColumnsAreKnownInAnyOrderAndCase(t *testing.T) {
	columns := [][]string{{"name", "Name"}, {"width_mm", "Width"}, {"px_x", "Pixels across", ""}}
	for name, c := range map[string]struct {
		first []string
		at    []int
		ok    bool
	}{
		"as a file names them":     {[]string{"width_mm", "name"}, []int{1, 0}, true},
		"as the page names them":   {[]string{"NAME", "pixels across", "shade"}, []int{0, 2, -1}, true},
		"twice the same":           {[]string{"name", "width_mm", "Name"}, []int{0, 1, -1}, true},
		"values are no names":      {[]string{"Harrow", "143", ""}, []int{-1, -1, -1}, false},
		"one name among values":    {[]string{"Harrow", "name"}, []int{-1, 0}, false},
		"one column alone":         {[]string{"name"}, []int{0}, true},
		"an empty cell names none": {[]string{"", "name"}, []int{-1, 0}, false},
	} {
		if at, ok := Place(c.first, columns); ok != c.ok || !slices.Equal(at, c.at) {
			t.Errorf("%s: Place(%q) = %v, %v; want %v, %v", name, c.first, at, ok, c.at, c.ok)
		}
	}
}

func FuzzRead(f *testing.F) {
	for _, seed := range []string{"a\tb\nc\td", "name;x\n\"a;b\";2,5", "'=1,-2\n\"q\"\"q\",", "\ufeff,\r\n", "''a,'\n"} {
		f.Add(seed)
	}
	f.Fuzz(func(t *testing.T, text string) {
		rows, err := Read(text)
		if err != nil {
			return
		}
		// What was read is what is read again from what is written of it, but for two things: a
		// line break within a cell is written as one sign, and a lone empty cell is an empty line.
		written, err := Write(rows)
		if err != nil {
			t.Fatalf("Write(%q): %v", rows, err)
		}
		if strings.Contains(text, "\r") || slices.ContainsFunc(rows, func(row []string) bool { return len(row) == 1 || slices.ContainsFunc(row, strange) }) {
			return
		}
		again, err := Read("x,x\n" + string(written))
		if len(rows) == MostRows {
			return
		}
		if err != nil || !reflect.DeepEqual(again[1:], rows) {
			t.Fatalf("%q was read as %q, and written and read again as %q (%v)", text, rows, again, err)
		}
	})
}

// strange is a cell whose own first sign is an apostrophe after space: it is trimmed anew.
func strange(cell string) bool { return strings.TrimSpace(cell) != cell }
