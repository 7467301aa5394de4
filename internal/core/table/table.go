// Package table reads rows of cells as they come out of a spreadsheet or a CSV file, and writes
// them so that they can be read again. It knows nothing of what the cells say, and keeps no
// format beside text.
package table

import (
	"bytes"
	"encoding/csv"
	"errors"
	"fmt"
	"io"
	"slices"
	"strings"
)

// Bounds of a table: rows, cells in a row, and bytes in a cell. They lie far beyond what is
// typed at a bench, and keep what is read small.
const (
	MostRows    = 2000
	MostColumns = 60
	MostCell    = 20000
)

// Read reads rows of cells with a tab, a semicolon or a comma between them, whichever stands
// most often in the first line in that order; cells may be quoted, and hold line breaks then.
// Space around a cell is dropped, and so are the empty rows at the end. A cell that Write kept
// from being taken for a formula is read as it was. Text without a row, with a quote that does
// not end, or beyond the bounds is an error that names the line.
func Read(text string) ([][]string, error) {
	text = strings.TrimPrefix(text, "\ufeff")
	reader := csv.NewReader(strings.NewReader(text))
	reader.Comma, reader.FieldsPerRecord, reader.LazyQuotes = delimiterOf(text), -1, true
	rows := [][]string{}
	for {
		cells, err := reader.Read()
		var wrong *csv.ParseError
		switch {
		case errors.Is(err, io.EOF):
			for len(rows) > 0 && !slices.ContainsFunc(rows[len(rows)-1], func(cell string) bool { return cell != "" }) {
				rows = rows[:len(rows)-1]
			}
			if len(rows) == 0 {
				return nil, errors.New("is empty; paste rows with tabs, semicolons or commas between their cells")
			}
			return rows, nil
		case errors.As(err, &wrong):
			return nil, fmt.Errorf("cannot be read in line %d (%w)", wrong.Line, wrong.Err)
		case err != nil:
			return nil, fmt.Errorf("cannot be read (%w)", err)
		}
		line, _ := reader.FieldPos(0)
		if len(rows) == MostRows {
			return nil, fmt.Errorf("has more than %d rows; bring it in by parts", MostRows)
		}
		if len(cells) > MostColumns {
			return nil, fmt.Errorf("has %d cells in line %d; a row has at most %d", len(cells), line, MostColumns)
		}
		for i, cell := range cells {
			if len(cell) > MostCell {
				return nil, fmt.Errorf("has a cell of %d characters in line %d; a cell has at most %d", len(cell), line, MostCell)
			}
			cells[i] = unguarded(strings.TrimSpace(cell))
		}
		rows = append(rows, cells)
	}
}

// delimiterOf is what stands between the cells of the first line.
func delimiterOf(text string) rune {
	first, _, _ := strings.Cut(text, "\n")
	for _, r := range "\t;" {
		if strings.ContainsRune(first, r) {
			return r
		}
	}
	return ','
}

// Write writes rows as CSV with commas. A text that a spreadsheet would take for a formula gets
// an apostrophe in front, which Read takes off again.
func Write(rows [][]string) ([]byte, error) {
	var out bytes.Buffer
	writer := csv.NewWriter(&out)
	for _, row := range rows {
		guarded := make([]string, len(row))
		for i, cell := range row {
			guarded[i] = guard(cell)
		}
		if err := writer.Write(guarded); err != nil {
			return nil, fmt.Errorf("write a row: %w", err)
		}
	}
	writer.Flush()
	return out.Bytes(), writer.Error()
}

// formula are the signs that begin a formula in a spreadsheet.
const formula = "=+-@"

func guard(cell string) string {
	switch {
	case cell == "":
		return cell
	case cell[0] == '\'', strings.ContainsRune(formula, rune(cell[0])) && !isNumber(cell):
		return "'" + cell
	}
	return cell
}

func unguarded(cell string) string { return strings.TrimPrefix(cell, "'") }

// isNumber reports a plain number, which is no formula: -12.5.
func isNumber(cell string) bool {
	digits := strings.TrimLeft(cell, "+-")
	return digits != "" && strings.Trim(digits, "0123456789.,") == "" && len(cell)-len(digits) == 1
}

// Place finds which of the named columns each cell of a first row names, by any of the names
// that a column goes by, whatever their case; -1 for a cell that names none. Without two that
// are named, or with the only cell named, the row is no row of names, and ok is false.
func Place(first []string, columns [][]string) (at []int, ok bool) {
	at = make([]int, len(first))
	named := 0
	for i, cell := range first {
		at[i] = slices.IndexFunc(columns, func(names []string) bool {
			return slices.ContainsFunc(names, func(name string) bool { return name != "" && strings.EqualFold(name, cell) })
		})
		if at[i] >= 0 && slices.Index(at[:i], at[i]) >= 0 {
			at[i] = -1 // a column named twice is read once
		}
		if at[i] >= 0 {
			named++
		}
	}
	return at, named >= 2 || named == 1 && len(first) == 1
}
