package plan

import (
	"strconv"
	"strings"

	"ojime/internal/core/quantity"
)

// Queued is a print that waits on one machine: what its vat must hold, how pale that is
// (0 black to 1 white; nil where the colour is not known, which counts as between), and the
// plan whose drawn order it keeps; empty for one that may be moved.
type Queued struct {
	Vat  string   `json:"vat"`
	Pale *float64 `json:"pale"`
	Plan string   `json:"plan"`
}

// FewestCleanings orders the prints of a machine whose vat holds inVat: what the vat holds
// already goes first, and where it must be changed the palest comes before the darker, which
// stains it. The prints of one plan keep their drawn order among themselves. It returns their
// places and how often the vat is changed; each next one is chosen on its own, so that with
// plans between them fewer changes may exist.
func FewestCleanings(prints []Queued, inVat string) (order []int, changes int64) {
	left := make([]bool, len(prints))
	for i := range left {
		left[i] = true
	}
	order = []int{}
	for range prints {
		next := -1
		for i, p := range prints {
			if !left[i] || waitsForItsTurn(prints, left, i) {
				continue
			}
			if next < 0 || before(p, prints[next], inVat) {
				next = i
			}
		}
		if prints[next].Vat != inVat {
			if inVat != "" {
				changes++
			}
			inVat = prints[next].Vat
		}
		left[next] = false
		order = append(order, next)
	}
	return order, changes
}

// waitsForItsTurn reports a print of a plan before which another of that plan is left.
func waitsForItsTurn(prints []Queued, left []bool, at int) bool {
	if prints[at].Plan == "" {
		return false
	}
	for i := range at {
		if left[i] && prints[i].Plan == prints[at].Plan {
			return true
		}
	}
	return false
}

func before(a, b Queued, inVat string) bool {
	if (a.Vat == inVat) != (b.Vat == inVat) {
		return a.Vat == inVat
	}
	return a.Vat != inVat && a.Vat != b.Vat && paleness(a) > paleness(b)
}

const betweenPaleAndDark = 0.5

func paleness(q Queued) float64 {
	if q.Pale == nil {
		return betweenPaleAndDark
	}
	return *q.Pale
}

// Paleness is how light a colour written #rrggbb is, 0 black to 1 white; nil for one that is not written
// so. Source: relative weights of Rec. 601.
func Paleness(colour string) *float64 {
	rgb, err := strconv.ParseUint(strings.TrimPrefix(colour, "#"), 16, 32)
	if err != nil || len(colour) != len("#rrggbb") {
		return nil
	}
	return quantity.Ptr((0.299*float64(rgb>>16) + 0.587*float64(rgb>>8&255) + 0.114*float64(rgb&255)) / 255)
}
