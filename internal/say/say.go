// Package say is how numbers, units, times and counts read, on pages, in sentences
// and in what is published. The pages' own formatter passes the same cases
// (testdata/cases.json), so that a figure reads alike wherever it stands.
package say

import (
	"fmt"
	"math"
	"math/big"
	"strconv"
	"strings"
	"time"
)

// Unknown stands where a number is not known.
const Unknown = "–"

// usualFigures is how many significant figures a number has unless it needs others.
const usualFigures = 3

// dust is below what size a number is nothing but the difference of equal ones.
const dust = 1e-9

// Figure is a number with three significant figures, never with an exponent: 0.0312,
// 12.7, 1 230 000. Millions stand in groups; a minus is a minus sign.
func Figure(v float64) string { return Figures(v, usualFigures) }

// Figures is Figure with so many significant figures.
func Figures(v float64, figures int) string {
	if math.IsNaN(v) || math.IsInf(v, 0) {
		return Unknown
	}
	if math.Abs(v) < dust {
		return "0"
	}
	digits, exponent := rounded(math.Abs(v), figures)
	text := plain(digits, exponent)
	if exponent >= 6 {
		text = groups(text)
	}
	if v < 0 {
		return "−" + text
	}
	return text
}

// FigureOr is Figure, or a dash for what is not known.
func FigureOr(v *float64) string {
	if v == nil {
		return Unknown
	}
	return Figure(*v)
}

// exactDigits is more than any float64 has between its first and its last.
const exactDigits = 800

// rounded are the significant digits of v > 0, halves away from 0, without zeros at
// the end, and the power of ten of the first.
//
// The shortest digits that are v lie on the same side of every half as v itself, since a half that
// lay between would be shorter or nearer. Only where they are a half do all digits of v decide.
func rounded(v float64, figures int) (digits string, exponent int) {
	var space [32]byte
	all, exponent := digitsOf(string(strconv.AppendFloat(space[:0], v, 'e', -1, 64)))
	if len(all) <= figures {
		return strings.TrimRight(string(all), "0"), exponent
	}
	if len(all) == figures+1 && all[figures] == '5' {
		all, exponent = digitsOf(new(big.Float).SetFloat64(v).Text('e', exactDigits))
	}
	up := all[figures] >= '5'
	kept := all[:figures]
	for i := figures - 1; up && i >= 0; i-- {
		if kept[i] == '9' {
			kept[i] = '0'
			continue
		}
		kept[i]++
		up = false
	}
	if up {
		kept, exponent = append([]byte{'1'}, kept...), exponent+1
	}
	return strings.TrimRight(string(kept), "0"), exponent
}

// digitsOf are the digits of a number written with its power of ten.
func digitsOf(text string) (digits []byte, exponent int) {
	mantissa, power, _ := strings.Cut(text, "e")
	exponent, err := strconv.Atoi(power)
	if err != nil {
		return []byte("0"), 0 // a float's text always has its power
	}
	return append([]byte(mantissa[:1]), mantissa[min(2, len(mantissa)):]...), exponent
}

// plain writes digits with the first at a power of ten.
func plain(digits string, exponent int) string {
	switch {
	case exponent < 0:
		return "0." + strings.Repeat("0", -exponent-1) + digits
	case len(digits) <= exponent+1:
		return digits + strings.Repeat("0", exponent+1-len(digits))
	}
	return digits[:exponent+1] + "." + digits[exponent+1:]
}

func groups(whole string) string {
	var out []string
	for len(whole) > 3 {
		out = append([]string{whole[len(whole)-3:]}, out...)
		whole = whole[:len(whole)-3]
	}
	return strings.Join(append([]string{whole}, out...), " ")
}

// Whole is a number rounded to a whole one, in groups of three: 12 741.
func Whole(v float64) string {
	r := math.Floor(math.Abs(v) + 0.5)
	text := groups(strconv.FormatFloat(r, 'f', 0, 64))
	if v < 0 && r != 0 {
		return "−" + text
	}
	return text
}

// InUnit joins a figure and its unit. Degrees of an angle stand close, as a sign; all others apart.
func InUnit(figure, unit string) string {
	if unit == "°" {
		return figure + unit
	}
	return figure + " " + unit
}

// Counted is a count with its noun: 1 print, 2 prints. The plural is given where it is
// not the noun with an s.
func Counted(n int64, one string, many ...string) string {
	noun := one + "s"
	if len(many) > 0 {
		noun = many[0]
	}
	if n == 1 {
		noun = one
	}
	return Whole(float64(n)) + " " + noun
}

// Percent is a share in per cent.
func Percent(share float64) string { return Figure(100*share) + " %" }

// shortS is up to which time seconds are shown beside minutes: a wash is told to the
// second, a print is not.
const shortS = 600

// Duration is a time in s: 42.5 s, 2 min 30 s, 35 min, 2 h 05 min.
func Duration(s float64) string {
	if s < 60 {
		return Figure(s) + " s"
	}
	if whole := int64(math.Floor(s + 0.5)); whole < shortS && whole%60 != 0 {
		return fmt.Sprintf("%d min %02d s", whole/60, whole%60)
	}
	minutes := int64(math.Floor(s/60 + 0.5))
	if minutes < 60 {
		return strconv.FormatInt(minutes, 10) + " min"
	}
	rest := strconv.FormatInt(minutes%60, 10)
	if len(rest) == 1 {
		rest = "0" + rest
	}
	return strconv.FormatInt(minutes/60, 10) + " h " + rest + " min"
}

// Micrometres are millimetres as signed whole micrometres: +12 µm.
func Micrometres(mm float64) string {
	um := math.Floor(math.Abs(1000*mm) + 0.5)
	sign := ""
	switch {
	case um == 0:
	case mm > 0:
		sign = "+"
	default:
		sign = "−"
	}
	return sign + strconv.FormatFloat(um, 'f', 0, 64) + " µm"
}

// Reading is a caliper's reading in mm as it was taken: at least two decimals, and no
// digit dropped.
func Reading(mm float64) string {
	plain := strconv.FormatFloat(mm, 'f', -1, 64)
	if two := strconv.FormatFloat(mm, 'f', 2, 64); len(two) > len(plain) || !strings.Contains(plain, ".") {
		return two
	}
	return plain
}

// Chance is a p value: 0.032, or below 0.001.
func Chance(p float64) string {
	if p < 0.001 {
		return "below 0.001"
	}
	return Figures(p, 2)
}

// Interval is from one number to another, with its unit: 1.2 to 3.4 mm.
func Interval(low, high float64, unit string) string {
	text := Figure(low) + " to " + Figure(high)
	if unit == "" {
		return text
	}
	return text + " " + unit
}

// Words is a code of the record as people say it: micro defect.
func Words(code string) string { return strings.ReplaceAll(code, "_", " ") }

// List joins names: a, b and c.
func List(names []string) string {
	if len(names) < 2 {
		return strings.Join(names, "")
	}
	return strings.Join(names[:len(names)-1], ", ") + " and " + names[len(names)-1]
}

// Copies names what was printed: 2 × Turret.
func Copies(n int64, piece string) string { return Whole(float64(n)) + " × " + piece }

// Day is the calendar day of an instant in the zone that the pages have: 2026-11-25.
func Day(ms int64) string { return time.UnixMilli(ms).Format(time.DateOnly) }

// Instant is how tables write an instant: RFC 3339, in UTC.
func Instant(ms int64) string { return time.UnixMilli(ms).UTC().Format(time.RFC3339) }
