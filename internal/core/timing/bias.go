package timing

import (
	"fmt"
	"math"
	"slices"

	"ojime/internal/core/quantity"
	"ojime/internal/core/stats"
)

// How a print ended. Only finished ones have a time.
const (
	Finished = "finished"
	Stopped  = "stopped"
)

// BiasPair is one print: the software's estimate and what it took, seconds. Ended is
// finished where it is nil.
type BiasPair struct {
	EstimateS float64 `json:"estimate_s"`
	ActualS   float64 `json:"actual_s"`
	Ended     *string `json:"ended,omitempty"`
}

// BiasInput needs at least one pair that finished.
type BiasInput struct {
	Pairs     []BiasPair `json:"pairs"`
	EstimateS *float64   `json:"estimate_s,omitempty"`
}

// BiasLine is actual = fixed + slope·estimate, in seconds.
type BiasLine struct {
	FixedS float64 `json:"fixed_s"`
	Slope  float64 `json:"slope"`
}

// Models of a bias.
const (
	FactorModel = "factor"
	LineModel   = "line"
)

// BiasResult gives the steady factor of an estimate with its interval, the line where
// there is one, and the estimate corrected by the model that predicts better, with its
// prediction interval, in seconds. N pairs with estimates in RangeS were used; LeftOut
// are the others, by index.
type BiasResult struct {
	Factor      *float64           `json:"factor"`
	FactorCI    *quantity.Interval `json:"factor_ci"`
	CorrectedS  *float64           `json:"corrected_s"`
	CorrectedPI *quantity.Interval `json:"corrected_pi"`
	N           int                `json:"n"`
	RangeS      quantity.Interval  `json:"range_s"`
	Model       string             `json:"model"`
	Line        *BiasLine          `json:"line"`
	LeftOut     []int              `json:"left_out"`
	quantity.Warnings
}

// Bias is the geometric mean of actual/estimate with Student's interval on the log
// scale, or, where estimates span enough, a line with a constant relative error, where
// leaving each print out in turn shows that it predicts better. It warns one_pair,
// stopped_left_out, outlier_left_out, extrapolated and unbounded.
func Bias(in BiasInput) (BiasResult, error) {
	if err := checkBias(in); err != nil {
		return BiasResult{}, err
	}
	out := BiasResult{Model: FactorModel, LeftOut: []int{}, Warnings: quantity.None()}
	pairs := out.used(in.Pairs)
	if len(pairs) == 0 {
		return BiasResult{}, quantity.Errorf("pairs", "are all of prints that were stopped; at least one that finished is needed")
	}
	out.N = len(pairs)
	out.RangeS = quantity.Interval{pairs[0].EstimateS, pairs[0].EstimateS}
	for _, p := range pairs {
		out.RangeS = quantity.Interval{math.Min(out.RangeS[0], p.EstimateS), math.Max(out.RangeS[1], p.EstimateS)}
	}
	out.factor(pairs, in.EstimateS)
	out.line(pairs, in.EstimateS)
	if e := in.EstimateS; e != nil {
		low, high := out.RangeS[0]/2, out.RangeS[1]*2
		if out.Model == LineModel {
			low, high = out.RangeS[0], out.RangeS[1]
		}
		if quantity.Less(*e, low) || quantity.Less(high, *e) {
			out.Warn("extrapolated", "The estimate asked after lies outside those of the prints on record; its correction is a guess until one like it was printed.")
		}
	}
	return out, nil
}

func checkBias(in BiasInput) error {
	var c quantity.Checks
	if len(in.Pairs) == 0 {
		c.Fail("pairs", "are empty; at least one print with estimate and actual time is needed")
	}
	for i, p := range in.Pairs {
		at := fmt.Sprintf("pairs[%d].", i)
		c.Above(at+"estimate_s", p.EstimateS)
		c.Above(at+"actual_s", p.ActualS)
		c.OneOf(at+"ended", quantity.Or(p.Ended, Finished), Finished, Stopped)
	}
	c.AboveIf("estimate_s", in.EstimateS)
	return c.Err()
}

func (p BiasPair) log() float64 { return math.Log(p.ActualS / p.EstimateS) }

// Limits beyond which a print is left out: so many robust standard deviations from the
// median, and at least so far on the log scale; asked of enough prints only.
const (
	outlierSDs, outlierLeast = 5, 0.2
	madToSD                  = 1.4826
	fewestForOutliers        = 5
)

// used leaves out what was stopped, and then what lies far off.
func (out *BiasResult) used(pairs []BiasPair) []BiasPair {
	var logs []float64
	for i, p := range pairs {
		if quantity.Or(p.Ended, Finished) == Stopped {
			out.LeftOut = append(out.LeftOut, i)
			out.Warn("stopped_left_out", "Prints that were stopped say nothing about how long one takes; they are left out.")
			continue
		}
		logs = append(logs, p.log())
	}
	far := func(float64) bool { return false }
	if len(logs) >= fewestForOutliers {
		middle := stats.Median(logs)
		apart := make([]float64, len(logs))
		for i, r := range logs {
			apart[i] = math.Abs(r - middle)
		}
		limit := math.Max(outlierSDs*madToSD*stats.Median(apart), outlierLeast)
		far = func(r float64) bool { return quantity.Less(limit, math.Abs(r-middle)) }
	}
	var kept []BiasPair
	for i, p := range pairs {
		switch {
		case slices.Contains(out.LeftOut, i):
		case far(p.log()):
			out.LeftOut = append(out.LeftOut, i)
			out.Warn("outlier_left_out", "A print that took far longer or shorter than the others is left out; look at what happened to it.")
		default:
			kept = append(kept, p)
		}
	}
	slices.Sort(out.LeftOut)
	return kept
}

func (out *BiasResult) factor(pairs []BiasPair, estimateS *float64) {
	r := make([]float64, len(pairs))
	for i, p := range pairs {
		r[i] = p.log()
	}
	mean, n := stats.Mean(r), float64(len(r))
	if out.Factor = quantity.Exp(mean); out.Factor == nil {
		out.Warn("unbounded", "Estimates and times differ beyond what can be computed; check their units.")
	} else if estimateS != nil {
		out.CorrectedS = quantity.Ptr(*estimateS * *out.Factor)
	}
	if len(r) == 1 {
		out.Warn("one_pair", "One print shows the factor but not how steady it is; a second one gives an interval.")
		return
	}
	sd, t := math.Sqrt(stats.SampleVar(r)), stats.T(n-1)
	if out.FactorCI = quantity.ExpInterval(mean-t*sd/math.Sqrt(n), mean+t*sd/math.Sqrt(n)); out.FactorCI == nil {
		out.Warn("unbounded", "These prints differ too much to bound the factor; check their times.")
	}
	if estimateS == nil {
		return
	}
	half := t * sd * math.Sqrt(1+1/n)
	pi := quantity.ExpInterval(mean-half, mean+half)
	if pi == nil {
		out.Warn("unbounded", "These prints differ too much to bound the corrected time; check their times.")
		return
	}
	out.CorrectedPI = &quantity.Interval{*estimateS * pi[0], *estimateS * pi[1]}
}

// A line is fitted to so many prints whose estimates span so much, and is believed where
// it errs by so much less than the factor.
const (
	fewestForLine = 6
	lineSpan      = 1.5
	lineGain      = 0.8
)

// line fits actual/estimate on 1/estimate, which gives each print the same relative
// error.
func (out *BiasResult) line(pairs []BiasPair, estimateS *float64) {
	if len(pairs) < fewestForLine || quantity.Less(out.RangeS[1], lineSpan*out.RangeS[0]) {
		return
	}
	fit := relativeLine(pairs)
	out.Line = &BiasLine{FixedS: fit.B, Slope: fit.A}
	if !lineIsBetter(pairs, fit) {
		return
	}
	if estimateS == nil {
		out.Model = LineModel
		return
	}
	x := 1 / *estimateS
	corrected := *estimateS * fit.At(x)
	if corrected <= 0 {
		return
	}
	half := *estimateS * stats.T(fit.DF) * math.Sqrt(fit.S2*(1+1/float64(fit.N)+(x-fit.MeanX)*(x-fit.MeanX)/fit.SumXX))
	out.Model, out.CorrectedS, out.CorrectedPI = LineModel, &corrected, &quantity.Interval{corrected - half, corrected + half}
}

func relativeLine(pairs []BiasPair) stats.Line {
	x, y := make([]float64, len(pairs)), make([]float64, len(pairs))
	for i, p := range pairs {
		x[i], y[i] = 1/p.EstimateS, p.ActualS/p.EstimateS
	}
	return stats.Fit(x, y)
}

// lineIsBetter leaves each print out in turn and predicts it by both models. The line
// without a print misses it by its residual over 1 − leverage (Cook and Weisberg 1982); a
// leverage of 1 is of a print without which one estimate only is left.
func lineIsBetter(pairs []BiasPair, fit stats.Line) bool {
	var byLine, byFactor, logs float64
	for _, p := range pairs {
		logs += p.log()
	}
	n := float64(len(pairs))
	for _, p := range pairs {
		x := 1 / p.EstimateS
		leverage := 1/n + (x-fit.MeanX)*(x-fit.MeanX)/fit.SumXX
		if 1-leverage <= quantity.RelativeNoise {
			return false
		}
		y := p.ActualS / p.EstimateS
		without := y - (y-fit.At(x))/(1-leverage)
		byLine += squareOff(p.EstimateS*without, p.ActualS)
		byFactor += squareOff(p.EstimateS*math.Exp((logs-p.log())/(n-1)), p.ActualS)
	}
	return quantity.Less(byLine, lineGain*byFactor)
}

// squareOff is the square of a relative error; rounding noise is none.
func squareOff(predicted, actual float64) float64 {
	e := (predicted - actual) / actual
	if math.Abs(e) <= quantity.RelativeNoise {
		return 0
	}
	return e * e
}
