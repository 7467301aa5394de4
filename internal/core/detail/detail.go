// Package detail reads ladders of fine features: the smallest size that holds,
// and the sizes at which half and nine tenths hold.
package detail

import (
	"fmt"
	"math"
	"slices"

	"ojime/internal/core/quantity"
	"ojime/internal/say"
)

// Rung is one size of a ladder in millimetres: Intact of Of replicates whole.
type Rung struct {
	SizeMM float64 `json:"size_mm"`
	Intact int64   `json:"intact"`
	Of     int64   `json:"of"`
}

// ThresholdInput is one ladder; rungs of equal size are added up.
type ThresholdInput struct {
	Ladder  string   `json:"ladder,omitempty"`
	Rungs   []Rung   `json:"rungs"`
	PitchUM *float64 `json:"pitch_um,omitempty"`
}

// ThresholdResult gives sizes in millimetres and, with a pitch, pixels.
// BracketMM replaces D50 and D90 where outcomes do not overlap; an end that
// does not exist is nil.
type ThresholdResult struct {
	SmallestIntactMM *float64     `json:"smallest_intact_mm"`
	D50MM            *float64     `json:"d50_mm"`
	D90MM            *float64     `json:"d90_mm"`
	BracketMM        *[2]*float64 `json:"bracket_mm"`
	Pixels           *float64     `json:"pixels"`
	Firth            FirthResult  `json:"firth"`
	quantity.Warnings
}

// leastSlope is the slope below which a ladder counts as not rising.
const leastSlope = 1e-9

// Threshold finds the smallest size such that it and every larger are whole,
// and D50, D90 by logistic regression on ln size. A maximum exists only when
// outcomes overlap (Albert & Anderson 1984). It warns top_fails, separated,
// not_monotone, extrapolated and unbounded.
func Threshold(in ThresholdInput) (ThresholdResult, error) {
	if err := checkThreshold(in); err != nil {
		return ThresholdResult{}, err
	}
	rungs := merge(in.Rungs)
	out := ThresholdResult{Warnings: quantity.None()}
	out.SmallestIntactMM = smallestWhole(rungs)
	if out.SmallestIntactMM == nil {
		out.Warn("top_fails", "Even the largest size, %s mm, is not whole in all replicates; make the ladder coarser.", say.Figure(rungs[len(rungs)-1].SizeMM))
	}
	out.regress(rungs)
	out.Firth = firth(rungs)
	if in.PitchUM != nil && out.SmallestIntactMM != nil {
		out.Pixels = quantity.Ptr(1000 * *out.SmallestIntactMM / *in.PitchUM)
	}
	return out, nil
}

// SmallestWhole is the smallest size in mm such that it and every larger are whole in all
// copies; nil where not even the largest is. Rungs of equal size are added up.
func SmallestWhole(rungs []Rung) *float64 { return smallestWhole(merge(rungs)) }

func smallestWhole(rungs []Rung) (size *float64) {
	for i := len(rungs) - 1; i >= 0 && rungs[i].Intact == rungs[i].Of; i-- {
		size = quantity.Ptr(rungs[i].SizeMM)
	}
	return size
}

// HalfHold is the size in mm at which half hold, by Firth's regression; nil where it does
// not exist (see FirthResult).
func HalfHold(rungs []Rung) *float64 {
	f, d, _, _, ok := fitted(merge(rungs))
	if !ok {
		return nil
	}
	return f.within(d)
}

func checkThreshold(in ThresholdInput) error {
	var c quantity.Checks
	if len(in.Rungs) == 0 {
		c.Fail("rungs", "are empty; at least one is needed")
	}
	for i, r := range in.Rungs {
		at := fmt.Sprintf("rungs[%d].", i)
		c.Above(at+"size_mm", r.SizeMM)
		c.CountNotBelow(at+"intact", r.Intact)
		c.CountAbove(at+"of", r.Of)
		if r.Intact > r.Of {
			c.Fail(at+"intact", "is %d of %d; it cannot be more", r.Intact, r.Of)
		}
	}
	c.AboveIf("pitch_um", in.PitchUM)
	return c.Err()
}

// merge adds up equal sizes and sorts by size, leaving its input as it was.
func merge(rungs []Rung) []Rung {
	sorted := slices.Clone(rungs)
	slices.SortStableFunc(sorted, func(a, b Rung) int {
		switch {
		case a.SizeMM < b.SizeMM:
			return -1
		case a.SizeMM > b.SizeMM:
			return 1
		}
		return 0
	})
	var out []Rung
	for _, r := range sorted {
		if last := len(out) - 1; last >= 0 && out[last].SizeMM == r.SizeMM {
			out[last].Intact += r.Intact
			out[last].Of += r.Of
		} else {
			out = append(out, r)
		}
	}
	return out
}

func (out *ThresholdResult) regress(rungs []Rung) {
	var failing, succeeding []float64
	for _, r := range rungs {
		if r.Intact < r.Of {
			failing = append(failing, r.SizeMM)
		}
		if r.Intact > 0 {
			succeeding = append(succeeding, r.SizeMM)
		}
	}
	none := len(failing) == 0 || len(succeeding) == 0
	if none || failing[len(failing)-1] <= succeeding[0] {
		out.Warn("separated", "Sizes that hold and sizes that fail do not overlap, so the threshold is only bracketed; more replicates near it would place it.")
		out.BracketMM = &[2]*float64{nil, out.SmallestIntactMM}
		if len(failing) > 0 {
			out.BracketMM[0] = quantity.Ptr(failing[len(failing)-1])
		}
		return
	}
	if succeeding[len(succeeding)-1] <= failing[0] {
		out.notMonotone()
		return
	}
	a, b := logistic(rungs)
	if b <= leastSlope {
		out.notMonotone()
		return
	}
	out.D50MM, out.D90MM = quantity.Exp(-a/b), quantity.Exp((math.Log(9)-a)/b)
	if out.D50MM == nil || out.D90MM == nil {
		out.Warn("unbounded", "The ladder hardly rises with size, so its threshold leaves what can be computed; test more sizes.")
	}
	low, high := rungs[0].SizeMM, rungs[len(rungs)-1].SizeMM
	for _, d := range []*float64{out.D50MM, out.D90MM} {
		if d != nil && (quantity.Less(*d, low) || quantity.Less(high, *d)) {
			out.Warn("extrapolated", "A threshold lies outside the sizes tested (%s to %s mm); extend the ladder.", say.Figure(low), say.Figure(high))
		}
	}
}

func (out *ThresholdResult) notMonotone() {
	out.Warn("not_monotone", "Larger sizes do not hold more often than smaller ones; check the readings before using this ladder.")
}

// logistic maximises the likelihood of p = 1/(1+exp(−a−b·ln size)) by Newton's
// method with halved steps, about the mean of ln size; the caller has made
// sure that a maximum exists.
func logistic(rungs []Rung) (a, b float64) {
	var centre, total float64
	for _, r := range rungs {
		centre += float64(r.Of) * math.Log(r.SizeMM)
		total += float64(r.Of)
	}
	centre /= total
	likelihood := func(a, b float64) float64 {
		var sum float64
		for _, r := range rungs {
			eta := a + b*(math.Log(r.SizeMM)-centre)
			sum += float64(r.Intact)*eta - float64(r.Of)*softplus(eta)
		}
		return sum
	}
	current := likelihood(0, 0)
	for range 200 {
		var ga, gb, haa, hab, hbb float64
		for _, r := range rungs {
			x := math.Log(r.SizeMM) - centre
			p := 1 / (1 + math.Exp(-a-b*x))
			rest, weight := float64(r.Intact)-float64(r.Of)*p, float64(r.Of)*p*(1-p)
			ga, gb = ga+rest, gb+rest*x
			haa, hab, hbb = haa+weight, hab+weight*x, hbb+weight*x*x
		}
		det := haa*hbb - hab*hab
		da, db := (hbb*ga-hab*gb)/det, (haa*gb-hab*ga)/det
		step := 1.0
		next := likelihood(a+da, b+db)
		for next < current && step > 1e-10 {
			step /= 2
			next = likelihood(a+step*da, b+step*db)
		}
		a, b, current = a+step*da, b+step*db, next
		if math.Abs(step*da)+math.Abs(step*db) < 1e-12*(1+math.Abs(a)+math.Abs(b)) {
			break
		}
	}
	return a - b*centre, b
}

// softplus is ln(1+e^x) without overflow.
func softplus(x float64) float64 {
	return math.Max(x, 0) + math.Log1p(math.Exp(-math.Abs(x)))
}
