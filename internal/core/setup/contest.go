package setup

import (
	"cmp"
	"math"
	"slices"

	"gonum.org/v1/gonum/stat/distuv"

	"ojime/internal/core/detail"
	"ojime/internal/core/evidence"
	"ojime/internal/core/outcome"
	"ojime/internal/core/quantity"
	"ojime/internal/core/stats"
)

// PrintCounts are the judged prints of a side as evidence counts them, by what is a
// failure here: all, those laid to the machine, or marks.
func PrintCounts(prints []Print, failed func(outcome.Counts) int64) []evidence.PrintCount {
	out := []evidence.PrintCount{}
	for _, p := range prints {
		if judged := p.Counts.Judged(); judged > 0 {
			out = append(out, evidence.PrintCount{Failed: failed(p.Counts), Judged: judged})
		}
	}
	return out
}

// GeometricMean is that of values with its interval on the log scale; without an interval of one, or where they have no spread.
func GeometricMean(values []float64) (mean float64, ci *quantity.Interval) {
	variance := 0.0
	if len(values) >= 2 {
		variance = stats.SampleVar(logsOf(values))
	}
	return geometricMean(values, variance)
}

// MeanTime is the geometric mean of times in s with its interval, whose spread is not taken below what their resolution can't
// tell apart; without an interval of one.
func MeanTime(times []float64) (mean float64, ci *quantity.Interval) {
	return geometricMean(times, logVariance(times, timeResolution(times)))
}

func geometricMean(values []float64, variance float64) (mean float64, ci *quantity.Interval) {
	middle := stats.Mean(logsOf(values))
	if n := float64(len(values)); n >= 2 {
		if half := stats.T(n-1) * math.Sqrt(variance/n); half > 0 {
			ci = &quantity.Interval{math.Exp(middle - half), math.Exp(middle + half)}
		}
	}
	return math.Exp(middle), ci
}

func logsOf(times []float64) []float64 {
	out := make([]float64, len(times))
	for i, t := range times {
		out[i] = math.Log(t)
	}
	return out
}

// TimeRatio is a over b, Welch's test on the logarithms of the prints' times,
// exponentiated; no spread is taken below what the times' resolution can't tell apart. CI and P are nil where a side has one
// print.
type TimeRatio struct {
	Ratio float64
	CI    *quantity.Interval
	P     *float64
}

// RatioOfTimes compares times in s, at least one a side.
func RatioOfTimes(a, b []float64) TimeRatio {
	apart := stats.Mean(logsOf(a)) - stats.Mean(logsOf(b))
	out := TimeRatio{Ratio: math.Exp(apart)}
	if len(a) < 2 || len(b) < 2 {
		return out
	}
	resolution := timeResolution(a, b)
	nA, nB := float64(len(a)), float64(len(b))
	ofA, ofB := logVariance(a, resolution)/nA, logVariance(b, resolution)/nB
	u := math.Sqrt(ofA + ofB)
	t := distuv.StudentsT{Mu: 0, Sigma: 1, Nu: (ofA + ofB) * (ofA + ofB) / (ofA*ofA/(nA-1) + ofB*ofB/(nB-1))} // Welch–Satterthwaite
	half := t.Quantile(0.975) * u
	out.CI, out.P = quantity.ExpInterval(apart-half, apart+half), quantity.Ptr(2*t.Survival(math.Abs(apart)/u))
	return out
}

// LadderPrint is one print's outcomes on a ladder, added up over its copies.
type LadderPrint struct {
	Rungs []detail.Rung
}

// Ladder is a ladder over the prints of a side: the size at which half hold over all
// copies, with its interval by leaving out each print in turn (nil below three prints, or
// where one of them carries it), and each print's own smallest size that is whole in all
// its copies (nil where not even the largest is).
type Ladder struct {
	D50MM      *float64
	D50CIMM    *quantity.Interval
	SmallestMM []*float64
	// StepMM is the coarsest step below the prints' smallest sizes: what lies between
	// two rungs cannot be told.
	StepMM float64
	// Rungs are the outcomes on each size over all prints, the smallest first.
	Rungs []detail.Rung
}

// fewestJackknifed is from how many prints on leaving one out means something.
const fewestJackknifed = 3

// LadderOf brings the prints of a side together on one ladder.
func LadderOf(prints []LadderPrint) (out Ladder) {
	out.Rungs = bySize(prints)
	out.D50MM = detail.HalfHold(out.Rungs)
	for _, p := range prints {
		own := detail.SmallestWhole(p.Rungs)
		out.SmallestMM = append(out.SmallestMM, own)
		if own != nil {
			out.StepMM = math.Max(out.StepMM, stepBelow(p.Rungs, *own))
		}
	}
	out.D50CIMM = jackknifed(prints, out.Rungs, out.D50MM)
	return out
}

// bySize adds up what prints show of each size, the smallest first.
func bySize(prints []LadderPrint) (out []detail.Rung) {
	for _, p := range prints {
		for _, r := range p.Rungs {
			at, known := ofSize(out, r.SizeMM)
			if !known {
				out = slices.Insert(out, at, detail.Rung{SizeMM: r.SizeMM})
			}
			out[at].Intact, out[at].Of = out[at].Intact+r.Intact, out[at].Of+r.Of
		}
	}
	return out
}

func ofSize(rungs []detail.Rung, mm float64) (at int, known bool) {
	return slices.BinarySearchFunc(rungs, mm, func(o detail.Rung, mm float64) int { return cmp.Compare(o.SizeMM, mm) })
}

// without takes one print out of what all of them show.
func without(all []detail.Rung, one LadderPrint) []detail.Rung {
	out := slices.Clone(all)
	for _, r := range one.Rungs {
		if at, known := ofSize(out, r.SizeMM); known {
			out[at].Intact, out[at].Of = out[at].Intact-r.Intact, out[at].Of-r.Of
		}
	}
	return slices.DeleteFunc(out, func(r detail.Rung) bool { return r.Of == 0 })
}

// stepBelow is from a rung to the next smaller one, or to the next larger one of the
// smallest; 0 of a lone rung.
func stepBelow(rungs []detail.Rung, size float64) float64 {
	below, above := 0.0, math.Inf(1)
	for _, r := range rungs {
		if r.SizeMM < size {
			below = math.Max(below, r.SizeMM)
		} else if r.SizeMM > size {
			above = math.Min(above, r.SizeMM)
		}
	}
	switch {
	case below > 0:
		return size - below
	case !math.IsInf(above, 1):
		return above - size
	}
	return 0
}

// jackknifed is the interval of ln d50 by t(m − 1) over m prints, which all together show each size.
func jackknifed(prints []LadderPrint, all []detail.Rung, d50 *float64) *quantity.Interval {
	m := float64(len(prints))
	if d50 == nil || len(prints) < fewestJackknifed {
		return nil
	}
	var logs []float64
	for _, p := range prints {
		rest := detail.HalfHold(without(all, p))
		if rest == nil {
			return nil
		}
		logs = append(logs, math.Log(*rest))
	}
	half := stats.T(m-1) * (m - 1) / math.Sqrt(m) * math.Sqrt(stats.SampleVar(logs))
	if half == 0 {
		return nil // prints that are all alike show no spread, which is not certainty
	}
	x := math.Log(*d50)
	return quantity.ExpInterval(x-half, x+half)
}
