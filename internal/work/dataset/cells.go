package dataset

import (
	"strconv"
	"strings"

	"ojime/internal/core/quantity"
)

func num(v *float64) string {
	if v == nil {
		return ""
	}
	return strconv.FormatFloat(*v, 'g', -1, 64)
}

func whole(v *int64) string {
	if v == nil {
		return ""
	}
	return strconv.FormatInt(*v, 10)
}

func str(v *string) string { return quantity.Or(v, "") }

func truth(v *bool) string {
	if v == nil {
		return ""
	}
	return strconv.FormatBool(*v)
}

// Defused puts an apostrophe before cells that a spreadsheet would run as a formula,
// where they are no number.
func Defused(rows [][]string) [][]string {
	for _, row := range rows {
		for i, cell := range row {
			if cell == "" || !strings.ContainsRune("=+-@\t\r", rune(cell[0])) {
				continue
			}
			if _, err := strconv.ParseFloat(cell, 64); err != nil {
				row[i] = "'" + cell
			}
		}
	}
	return rows
}
