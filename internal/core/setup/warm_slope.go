package setup

import (
	"fmt"
	"math"

	"ojime/internal/core/quantity"
	"ojime/internal/core/stats"
	"ojime/internal/say"
)

// WarmSlope is what one degree more does to the time of a print, in % of it, with its 95 %
// interval: from Prints prints of Kinds kinds of plates between FromC and ToC.
type WarmSlope struct {
	PctPerC float64           `json:"pct_per_c"`
	CI      quantity.Interval `json:"ci"`
	Prints  int64             `json:"prints"`
	Kinds   int64             `json:"kinds"`
	FromC   float64           `json:"from_c"`
	ToC     float64           `json:"to_c"`
	Says    string            `json:"says"`
}

// What a slope over temperatures asks for before it is said: so many degrees of freedom, and
// prints of one kind so many degrees apart.
const (
	warmLeastDF    = 4
	warmLeastSpanC = 3
)

// TimePerDegree is the slope of ln time over the temperature, within kinds of plates: each kind
// is taken by its distance from its own means, so that one that is longer and happened to be
// printed warmer says nothing. Source: analysis of covariance, pooled within-group slope
// (Snedecor and Cochran). nil where the prints are too few, or too near to each other.
func TimePerDegree(prints []WarmPrint) *WarmSlope {
	out := WarmSlope{FromC: math.Inf(1), ToC: math.Inf(-1)}
	byKind := map[string][]WarmPrint{}
	var kinds []string
	for _, p := range prints {
		if p.TempC == nil || p.TookS == nil || *p.TookS <= 0 {
			continue
		}
		if byKind[p.Kind] == nil {
			kinds = append(kinds, p.Kind)
		}
		byKind[p.Kind] = append(byKind[p.Kind], p)
	}
	var sxx, sxy, syy, span float64
	for _, kind := range kinds {
		of := byKind[kind]
		if len(of) < 2 {
			continue
		}
		var x, y []float64
		least, most := math.Inf(1), math.Inf(-1)
		for _, p := range of {
			x, y = append(x, *p.TempC), append(y, math.Log(*p.TookS))
			least, most = math.Min(least, *p.TempC), math.Max(most, *p.TempC)
		}
		mx, my := stats.Mean(x), stats.Mean(y)
		for i := range x {
			sxx, sxy, syy = sxx+(x[i]-mx)*(x[i]-mx), sxy+(x[i]-mx)*(y[i]-my), syy+(y[i]-my)*(y[i]-my)
		}
		span = math.Max(span, most-least)
		out.FromC, out.ToC = math.Min(out.FromC, least), math.Max(out.ToC, most)
		out.Prints, out.Kinds = out.Prints+int64(len(of)), out.Kinds+1
	}
	df := float64(out.Prints - out.Kinds - 1)
	if df < warmLeastDF || quantity.Less(span, warmLeastSpanC) {
		return nil
	}
	slope := sxy / sxx
	half := stats.T(df) * math.Sqrt(math.Max(0, syy-slope*sxy)/df/sxx)
	pct := func(b float64) float64 { return 100 * math.Expm1(b) }
	out.PctPerC, out.CI = pct(slope), quantity.Interval{pct(slope - half), pct(slope + half)}
	out.Says = out.words()
	return &out
}

func (s WarmSlope) words() string {
	text := fmt.Sprintf("One degree more changes the time by %s %% (%s), from %s of %s between %s and %s °C",
		say.Figure(s.PctPerC), say.Interval(s.CI[0], s.CI[1], "%"), say.Counted(s.Prints, "print"), say.Counted(s.Kinds, "kind of plate", "kinds of plates"), say.Figure(s.FromC), say.Figure(s.ToC))
	if s.CI[0] <= 0 && s.CI[1] >= 0 {
		return text + ": it may as well do nothing."
	}
	return text + "."
}
