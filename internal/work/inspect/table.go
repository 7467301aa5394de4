package inspect

import (
	"encoding/csv"
	"errors"
	"fmt"
	"math"
	"strconv"
	"strings"

	"ojime/internal/core/quantity"
)

// mostRows bounds a table of readings.
const mostRows = 10_000

// tableRow is a row of a table of readings as it stands there; a cell that is empty or whose
// column is not there is empty. Line counts from 1, the names of the columns among them.
type tableRow struct {
	line                                                                  int
	specimen, feature, instrument, value, rung, intact, state, countsElse string
}

// columns are those of a table of readings; the program's own readings.csv has them all.
var columns = map[string]func(*tableRow) *string{
	"specimen":   func(r *tableRow) *string { return &r.specimen },
	"feature":    func(r *tableRow) *string { return &r.feature },
	"instrument": func(r *tableRow) *string { return &r.instrument },
	"value_mm":   func(r *tableRow) *string { return &r.value },
	"rung_mm":    func(r *tableRow) *string { return &r.rung },
	"intact":     func(r *tableRow) *string { return &r.intact },
	"state":      func(r *tableRow) *string { return &r.state },
	"counts":     func(r *tableRow) *string { return &r.countsElse },
}

// parseTable reads a table of readings: comma, semicolon or tab between cells, names of the
// columns first, in any order; columns of other names are left and named. What is wrong with
// the table as a whole is an error of field text.
func parseTable(text string) (rows []tableRow, left []string, err error) {
	text = strings.TrimPrefix(text, "\ufeff")
	reader := csv.NewReader(strings.NewReader(text))
	reader.Comma, reader.FieldsPerRecord, reader.LazyQuotes, reader.TrimLeadingSpace = delimiterOf(text), -1, true, true
	names, err := reader.Read()
	if err != nil {
		return nil, nil, quantity.Errorf("text", "is empty; its first row names the columns: specimen, feature, and value_mm, rung_mm with intact, or state")
	}
	into := make([]func(*tableRow) *string, len(names))
	known := map[string]bool{}
	for i, name := range names {
		name = strings.ToLower(strings.TrimSpace(name))
		if into[i] = columns[name]; into[i] == nil {
			left = append(left, name)
		}
		known[name] = true
	}
	if !known["specimen"] || !known["feature"] || !(known["value_mm"] || known["rung_mm"] || known["state"]) {
		return nil, nil, quantity.Errorf("text", "lacks a column: it needs specimen, feature, and value_mm, rung_mm with intact, or state; its first row names %.120q", strings.Join(names, ", "))
	}
	for {
		cells, err := reader.Read()
		var wrong *csv.ParseError
		switch {
		case errors.As(err, &wrong):
			return nil, nil, quantity.Errorf("text", "cannot be read in line %d (%v)", wrong.Line, wrong.Err)
		case err != nil:
			return rows, left, nil
		case len(rows) == mostRows:
			return nil, nil, quantity.Errorf("text", "has more than %d rows; bring it in by parts", mostRows)
		}
		line, _ := reader.FieldPos(0)
		row := tableRow{line: line}
		for i, cell := range cells {
			if i < len(into) && into[i] != nil {
				*into[i](&row) = strings.TrimSpace(strings.TrimPrefix(cell, "'"))
			}
		}
		rows = append(rows, row)
	}
}

// delimiterOf is what stands between the names of the columns.
func delimiterOf(text string) rune {
	first, _, _ := strings.Cut(text, "\n")
	for _, r := range "\t;" {
		if strings.ContainsRune(first, r) {
			return r
		}
	}
	return ','
}

// number reads a cell, with a decimal comma or point; nil where it is empty.
func number(cell string) (*float64, error) {
	if cell == "" {
		return nil, nil
	}
	v, err := strconv.ParseFloat(strings.Replace(cell, ",", ".", 1), 64)
	if err != nil || !(v > 0) || math.IsInf(v, 0) {
		return nil, fmt.Errorf("%.20q is no size in mm", cell)
	}
	return &v, nil
}

// truth reads a cell that is yes or no; nil where it is empty.
func truth(cell string) (*bool, error) {
	switch strings.ToLower(cell) {
	case "":
		return nil, nil
	case "true", "yes", "1", "intact", "whole":
		return quantity.Ptr(true), nil
	case "false", "no", "0", "damaged", "missing":
		return quantity.Ptr(false), nil
	}
	return nil, fmt.Errorf("%.20q is neither yes nor no", cell)
}
