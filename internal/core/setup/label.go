package setup

import (
	"fmt"
	"math"

	"ojime/internal/core/quantity"
	"ojime/internal/say"
)

// Treated is how long a print was washed or cured and what the label of its resin asks,
// both in s and nil where not known.
type Treated struct{ TookS, AskedS *float64 }

// AgainstLabel says how long prints were treated and what their labels ask, as a range
// where they vary.
func AgainstLabel(prints []Treated) string {
	var took, asked, shares []float64
	for _, p := range prints {
		if p.TookS != nil {
			took = append(took, *p.TookS)
		}
		if p.AskedS != nil {
			asked = append(asked, *p.AskedS)
		}
		if p.TookS != nil && p.AskedS != nil && *p.AskedS > 0 {
			shares = append(shares, *p.TookS / *p.AskedS)
		}
	}
	if len(took) == 0 {
		return "not known"
	}
	text := rangeOf(took, say.Duration)
	if n := len(prints) - len(took); n > 0 {
		text += fmt.Sprintf(", not known of %s", say.Counted(int64(n), "print"))
	}
	switch {
	case len(asked) == 0:
		return text + "; what the label asks is not on record"
	case len(shares) == 0:
		return text
	}
	text += "; the label asks " + rangeOf(asked, say.Duration)
	if least, most := ends(shares); least != 1 || most != 1 {
		text += fmt.Sprintf(": %s of it", rangeOf(shares, say.Percent))
	}
	return text
}

func ends(list []float64) (least, most float64) {
	least, most = math.Inf(1), math.Inf(-1)
	for _, v := range list {
		least, most = min(least, v), max(most, v)
	}
	return least, most
}

// rangeOf writes values as one where they are one, else from the least to the greatest.
func rangeOf(list []float64, write func(float64) string) string {
	least, most := ends(list)
	if least == most {
		return write(least)
	}
	return write(least) + " to " + write(most)
}

// Raised is how high a print is and how long it took; nil where either is not known.
type Raised struct{ HeightMM, TookS *float64 }

// Speed is how fast prints rose, in mm/h: the geometric mean over prints with its interval.
type Speed struct {
	MMH    float64            `json:"mm_h"`
	CI     *quantity.Interval `json:"ci"`
	Prints int64              `json:"prints"`
}

// SpeedOf is nil where no print has both a height and a time.
func SpeedOf(prints []Raised) *Speed {
	var speeds []float64
	for _, p := range prints {
		if p.HeightMM != nil && p.TookS != nil && *p.HeightMM > 0 && *p.TookS > 0 {
			speeds = append(speeds, *p.HeightMM / *p.TookS * 3600)
		}
	}
	if len(speeds) == 0 {
		return nil
	}
	mean, ci := GeometricMean(speeds)
	return &Speed{MMH: mean, CI: ci, Prints: int64(len(speeds))}
}
