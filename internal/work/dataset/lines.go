package dataset

import (
	"bytes"
	"encoding/csv"
	"strconv"
	"strings"
	"time"
)

// lines are a table on the way, cell by cell: CSV as encoding/csv writes it, without a list of all of its cells, which for the
// readings of a long review would be larger than the table. Cells that a spreadsheet would run are defused.
type lines struct {
	text []byte
	rows int
	open bool
}

func newLines(head ...string) *lines {
	l := &lines{rows: -1}
	for _, name := range head {
		l.cell(name)
	}
	l.end()
	return l
}

// next parts a cell from the one before.
func (l *lines) next() {
	if l.open {
		l.text = append(l.text, ',')
	}
	l.open = true
}

func (l *lines) cell(text string) {
	l.next()
	l.text = appendCell(l.text, text)
}

func (l *lines) number(v *float64) {
	l.next()
	if v != nil {
		l.text = strconv.AppendFloat(l.text, *v, 'g', -1, 64)
	}
}

// word writes one of the program's own words, in which nothing has to be quoted.
func (l *lines) word(text string) {
	l.next()
	l.text = append(l.text, text...)
}

func (l *lines) truth(v *bool) {
	l.next()
	if v != nil {
		l.text = strconv.AppendBool(l.text, *v)
	}
}

// instant is as say.Instant has it.
func (l *lines) instant(ms int64) {
	l.next()
	l.text = time.UnixMilli(ms).UTC().AppendFormat(l.text, time.RFC3339)
}

// cells puts in what was written as cells before.
func (l *lines) cells(written []byte) {
	l.next()
	l.text = append(l.text, written...)
}

// add puts whole lines behind.
func (l *lines) add(more *lines) {
	l.text = append(l.text, more.text...)
	l.rows += more.rows
}

func (l *lines) end() {
	l.text, l.open = append(l.text, '\n'), false
	l.rows++
}

// appendCell writes one cell behind a text.
func appendCell(b []byte, text string) []byte {
	if text == "" {
		return b
	}
	if c := text[0]; (c|0x20 >= 'a' && c|0x20 <= 'z' || c >= '0' && c <= '9') && !strings.ContainsAny(text, "\",\r\n") {
		return append(b, text...)
	}
	text = defused(text)
	var one bytes.Buffer
	w := csv.NewWriter(&one)
	_ = w.Write([]string{text, ""}) // to memory; a second cell, since a line of one may be written apart
	w.Flush()
	return append(b, bytes.TrimSuffix(one.Bytes(), []byte(",\n"))...)
}

// listed is a table that is short enough to be listed first.
func listed(rowsOf func(Source) [][]string) func(Source) *lines {
	return func(of Source) *lines {
		rows := rowsOf(of)
		l := newLines(rows[0]...)
		for _, row := range rows[1:] {
			for _, cell := range row {
				l.cell(cell)
			}
			l.end()
		}
		return l
	}
}
