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

// defused puts an apostrophe before a cell that a spreadsheet would run as a formula, where it
// is no number.
func defused(cell string) string {
	if cell == "" || !strings.ContainsRune("=+-@\t\r", rune(cell[0])) {
		return cell
	}
	if _, err := strconv.ParseFloat(cell, 64); err == nil {
		return cell
	}
	return "'" + cell
}
