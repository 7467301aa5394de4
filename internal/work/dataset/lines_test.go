package dataset

import (
	"bytes"
	"encoding/csv"
	"math/rand/v2"
	"slices"
	"strings"
	"testing"
)

func TestCellsThatASpreadsheetWouldRun(t *testing.T) {
	for cell, want := range map[string]string{"=1+1": "'=1+1", "-0.05": "-0.05", "+2": "+2", "@cmd": "'@cmd", "-x": "'-x", "plain": "plain", "": "", "\tx": "'\tx"} {
		if got := defused(cell); got != want {
			t.Errorf("%q is written %q, want %q", cell, got, want)
		}
	}
}

// A table that is written cell by cell is the one that encoding/csv writes of its rows, and comes back as they were.
func TestLinesAreCSV(t *testing.T) {
	random := rand.New(rand.NewPCG(7, 7))
	letters := []string{"a", "B", " ", ",", "\"", "\n", "\r", "é", "\\", ".", "7", "\u00a0", "'", ";", "\t"}
	word := func() (out string) {
		for range random.IntN(5) {
			out += letters[random.IntN(len(letters))]
		}
		return out
	}
	rows := [][]string{{"one", "two", "three"}, {`\.`, " ", ""}, {"", "", ""}}
	for range 3000 {
		rows = append(rows, []string{word(), word(), word()})
	}
	l := listed(func(Source) [][]string { return rows })(Source{})
	safe := make([][]string, len(rows))
	for i, row := range rows {
		for _, cell := range row {
			safe[i] = append(safe[i], defused(cell))
		}
	}
	var want bytes.Buffer
	if err := csv.NewWriter(&want).WriteAll(safe); err != nil {
		t.Fatal(err)
	}
	if !bytes.Equal(l.text, want.Bytes()) || l.rows != len(rows)-1 {
		t.Fatalf("%d rows of %d bytes, want %d of %d", l.rows, len(l.text), len(rows)-1, want.Len())
	}
	back, err := csv.NewReader(bytes.NewReader(l.text)).ReadAll()
	if err != nil || len(back) != len(rows) {
		t.Fatalf("%d rows come back: %v", len(back), err)
	}
	for i, row := range safe {
		for j := range row {
			row[j] = strings.ReplaceAll(row[j], "\r\n", "\n") // as its reader has it
		}
		if !slices.Equal(row, back[i]) {
			t.Fatalf("row %d comes back as %q, was %q", i, back[i], row)
		}
	}
}

func TestNumbersAndWhatIsNotKnown(t *testing.T) {
	l, v := newLines("a", "b", "c"), -0.25
	l.number(&v)
	l.number(nil)
	l.cells([]byte("x"))
	l.end()
	if got := string(l.text); got != "a,b,c\n-0.25,,x\n" || l.rows != 1 {
		t.Errorf("%q, %d rows", got, l.rows)
	}
}
