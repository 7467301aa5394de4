package exposure

import (
	"math"
	"slices"

	"ojime/internal/core/quantity"
	"ojime/internal/core/stats"
)

// lineOf fits the given value on ln(exposure), or nil below three distinct
// exposures.
func lineOf(readings []Reading, value func(Reading) *float64) *stats.Line {
	var x, y, exposures []float64
	for _, r := range readings {
		if v := value(r); v != nil {
			exposures = append(exposures, r.ExposureS)
			x, y = append(x, math.Log(r.ExposureS)), append(y, *v)
		}
	}
	if stats.Distinct(exposures) < 3 {
		return nil
	}
	line := stats.Fit(x, y)
	return &line
}

// fit finds where outer error (rising) and inner error (falling) are together
// least: x* = −Σ a·b / Σ b². Its interval is by the delta method.
func (out *SeriesResult) fit(readings []Reading) {
	outer := lineOf(readings, func(r Reading) *float64 { return r.OuterErrorMM })
	inner := lineOf(readings, func(r Reading) *float64 { return r.InnerErrorMM })
	if outer != nil && outer.B <= 0 {
		outer = nil
		out.Warn("fit_wrong_slope", "Outer errors do not grow with exposure; check the readings or widen the range.")
	}
	if inner != nil && inner.B >= 0 {
		inner = nil
		out.Warn("fit_wrong_slope", "Inner errors do not shrink with exposure; check the readings or widen the range.")
	}
	var lines []*stats.Line
	for _, l := range []*stats.Line{outer, inner} {
		if l != nil {
			lines = append(lines, l)
		}
	}
	if len(lines) == 0 {
		return
	}
	var ab, bb, df float64
	for _, l := range lines {
		ab += l.A * l.B
		bb += l.B * l.B
		df += l.DF
	}
	x := -ab / bb
	var variance float64
	for _, l := range lines {
		da, db := -l.B/bb, -(l.A+2*l.B*x)/bb
		variance += da*da*l.VarA + db*db*l.VarB + 2*da*db*l.CovAB
	}
	half := stats.T(df) * math.Sqrt(math.Max(0, variance))
	choice := FitChoice{ExposureS: quantity.Exp(x), CI: quantity.ExpInterval(x-half, x+half)}
	if choice.ExposureS == nil || choice.CI == nil {
		out.Warn("unbounded", "The readings do not bound where the dimensions come right; widen the range.")
	}
	if outer != nil {
		choice.OuterAtMM = quantity.Ptr(outer.At(x))
	}
	if inner != nil {
		choice.InnerAtMM = quantity.Ptr(inner.At(x))
	}
	out.Fit = &choice
}

// detail finds where the smallest pin (falling) meets the smallest gap
// (rising); where the ladders do not run so, the tested exposure with the
// least larger mean of the two.
func (out *SeriesResult) detail(readings []Reading) {
	pin := lineOf(readings, func(r Reading) *float64 { return r.SmallestPinMM })
	gap := lineOf(readings, func(r Reading) *float64 { return r.SmallestGapMM })
	if pin == nil || gap == nil {
		return
	}
	if pin.B >= 0 || gap.B <= 0 {
		out.Warn("ladders_not_monotone", "Pins do not get finer, or gaps do not close, with exposure; the best tested exposure stands in for the crossing.")
		out.Detail = bestTested(readings)
		return
	}
	x := crossing(pin, gap)
	out.Detail = &DetailChoice{ExposureS: quantity.Exp(x), ResolvedMM: pin.At(x), CI: jackknifed(readings, x)}
	if out.Detail.ExposureS == nil {
		out.Warn("unbounded", "The readings do not bound where pins and gaps meet; widen the range.")
	}
}

// crossing is where two lines meet.
func crossing(pin, gap *stats.Line) float64 { return (gap.A - pin.A) / (pin.B - gap.B) }

// fewestLeftOut is from how many exposures a jackknife means something.
const fewestLeftOut = 4

// jackknifed is the interval of a crossing by leaving out each exposure with a pin or a
// gap in turn; nil where there are too few, or where one of them carries the crossing.
func jackknifed(readings []Reading, x float64) *quantity.Interval {
	judged := slices.DeleteFunc(slices.Clone(readings), func(r Reading) bool { return r.SmallestPinMM == nil && r.SmallestGapMM == nil })
	exposures := testedExposures(judged)
	g := float64(len(exposures))
	if len(exposures) < fewestLeftOut {
		return nil
	}
	var without []float64
	for _, e := range exposures {
		rest := slices.DeleteFunc(slices.Clone(judged), func(r Reading) bool { return r.ExposureS == e })
		pin := lineOf(rest, func(r Reading) *float64 { return r.SmallestPinMM })
		gap := lineOf(rest, func(r Reading) *float64 { return r.SmallestGapMM })
		if pin == nil || gap == nil || pin.B >= 0 || gap.B <= 0 {
			return nil
		}
		without = append(without, crossing(pin, gap))
	}
	half := stats.T(g-1) * (g - 1) / math.Sqrt(g) * math.Sqrt(stats.SampleVar(without))
	return quantity.ExpInterval(x-half, x+half)
}

func bestTested(readings []Reading) *DetailChoice {
	pins, gaps := map[float64][]float64{}, map[float64][]float64{}
	for _, r := range readings {
		if r.SmallestPinMM != nil {
			pins[r.ExposureS] = append(pins[r.ExposureS], *r.SmallestPinMM)
		}
		if r.SmallestGapMM != nil {
			gaps[r.ExposureS] = append(gaps[r.ExposureS], *r.SmallestGapMM)
		}
	}
	var best *DetailChoice
	for _, exposure := range testedExposures(readings) {
		if pins[exposure] == nil || gaps[exposure] == nil {
			continue
		}
		size := math.Max(stats.Mean(pins[exposure]), stats.Mean(gaps[exposure]))
		if best == nil || quantity.Less(size, best.ResolvedMM) {
			best = &DetailChoice{ExposureS: quantity.Ptr(exposure), ResolvedMM: size}
		}
	}
	return best
}

// survival finds the smallest tested exposure from which on upward every
// judged cell is whole, and takes the next one above it.
func (out *SeriesResult) survival(readings []Reading) {
	good := map[float64]bool{}
	var exposures []float64
	for _, r := range readings {
		if r.Survived == nil && r.FeaturesOK == nil {
			continue
		}
		whole := quantity.Or(r.Survived, true) && (r.FeaturesOK == nil || *r.FeaturesOK == *r.FeaturesTotal)
		if before, seen := good[r.ExposureS]; seen {
			good[r.ExposureS] = before && whole
		} else {
			good[r.ExposureS] = whole
			exposures = append(exposures, r.ExposureS)
		}
	}
	if len(exposures) == 0 {
		return
	}
	slices.Sort(exposures)
	lowest := len(exposures)
	for lowest > 0 && good[exposures[lowest-1]] {
		lowest--
	}
	out.Survival = &SurvivalChoice{}
	if lowest == len(exposures) {
		out.Warn("nothing_survived", "At no exposure from which on upward everything came off whole; go higher.")
		return
	}
	next := lowest + 1
	if next == len(exposures) {
		next = lowest
		out.Warn("no_margin", "Only the highest exposure came off whole; there is no step above it to take as a margin.")
	}
	out.Survival.LowestS = quantity.Ptr(exposures[lowest])
	out.Survival.ExposureS = quantity.Ptr(exposures[next])
}

// next says what to print: five cells that can be dialled, or accept.
func (out *SeriesResult) next(dial float64, tested []float64) Next {
	first, last := tested[0], tested[len(tested)-1]
	if len(tested) < 3 {
		return repeat(first, last, dial)
	}
	d := medianStep(tested)
	rec := out.Recommended
	switch {
	case rec == nil && out.Has("nothing_survived"):
		return centred("extend", last+2*d, d, dial)
	case rec == nil:
		return repeat(first, last, dial)
	case out.Has("extrapolated"):
		return centred("extend", min(max(rec.ExposureS, first-2*d), last+2*d), d, dial)
	case len(out.Suspects) > 0:
		return Next{Action: "recheck"}
	case out.narrowEnough(dial):
		return Next{Action: "accept"}
	case quantity.Less(dial, d):
		return centred("narrow", rec.ExposureS, max(dial, d/2), dial)
	}
	return centred("repeat", rec.ExposureS, dial, dial)
}

// narrowShare is how wide half an interval may be of the choice, where that is more than
// the dial's step.
const narrowShare = 0.08

// narrowEnough holds the interval of the school that chose against the dial. One that is
// not known, or has no width, is wide.
func (out *SeriesResult) narrowEnough(dial float64) bool {
	rec := out.Recommended
	var ci *quantity.Interval
	switch {
	case rec.School == Survival || out.Has("survival_floor"):
		ci = &quantity.Interval{*out.Survival.LowestS, *out.Survival.ExposureS}
	case rec.School == Fit:
		ci = out.Fit.CI
	default:
		ci = out.Detail.CI
	}
	if ci == nil || quantity.Equal(ci[0], ci[1]) {
		return false
	}
	return quantity.AtMost((ci[1]-ci[0])/2, max(dial, narrowShare*rec.ExposureS))
}

func repeat(first, last, dial float64) Next {
	if first == last {
		first, last = first/2, 1.5*first
	}
	return fiveCells("repeat", dialled(first, dial), dialled((last-first)/4, dial))
}

func centred(action string, centre, step, dial float64) Next {
	step = dialled(step, dial)
	return fiveCells(action, max(step, dialled(centre, dial)-2*step), step)
}

func fiveCells(action string, from, step float64) Next {
	to := from + 4*step
	return Next{Action: action, FromS: &from, ToS: &to, StepS: &step}
}

func medianStep(tested []float64) float64 {
	var steps []float64
	for i := 1; i < len(tested); i++ {
		steps = append(steps, tested[i]-tested[i-1])
	}
	return stats.Median(steps)
}
