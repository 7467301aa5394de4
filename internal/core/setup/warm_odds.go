package setup

import (
	"fmt"
	"math"

	"ojime/internal/core/quantity"
	"ojime/internal/say"
)

// WarmOdds is what one degree more does to the odds that a print fails: by which factor they change,
// with its 95 % interval, from Prints prints of Kinds kinds of plates between FromC and ToC, of which
// Failed failed.
type WarmOdds struct {
	PerC   float64           `json:"per_c"`
	CI     quantity.Interval `json:"ci"`
	Prints int64             `json:"prints"`
	Failed int64             `json:"failed"`
	Kinds  int64             `json:"kinds"`
	FromC  float64           `json:"from_c"`
	ToC    float64           `json:"to_c"`
	Says   string            `json:"says"`
}

// warmLeastOdds is of how many failed, and of how many whole, prints odds over temperatures are said.
const warmLeastOdds = 3

// FailuresPerDegree is the slope of the log odds of failing over the temperature, within kinds of
// plates. A print fails where any of its copies did; of each kind only how its failures fall among its
// temperatures counts, given how many there were, so that a kind that fails more often and happened to
// be printed colder says nothing. Source: conditional logistic regression with Jeffreys' prior (Heinze
// and Puhr 2010), whose estimate and interval exist where all failures were cold; the interval is where
// the penalised likelihood falls by half the 95 % point of χ² of one degree of freedom. nil where the
// prints are too few, or too near to each other.
func FailuresPerDegree(prints []WarmPrint) *WarmOdds {
	out := WarmOdds{FromC: math.Inf(1), ToC: math.Inf(-1)}
	var strata []oddsStratum
	var span float64
	for _, s := range oddsStrata(prints) {
		least, most := s.ends()
		if s.failed == 0 || s.failed == len(s.tempC) || quantity.Equal(least, most) {
			continue
		}
		strata = append(strata, s)
		span = math.Max(span, most-least)
		out.FromC, out.ToC = math.Min(out.FromC, least), math.Max(out.ToC, most)
		out.Prints, out.Failed, out.Kinds = out.Prints+int64(len(s.tempC)), out.Failed+int64(s.failed), out.Kinds+1
	}
	if min(out.Failed, out.Prints-out.Failed) < warmLeastOdds || quantity.Less(span, warmLeastSpanC) {
		return nil
	}
	slope, low, high := oddsSlope(strata, span)
	out.PerC, out.CI = math.Exp(slope), quantity.Interval{math.Exp(low), math.Exp(high)}
	out.Says = out.words()
	return &out
}

// oddsStratum are the prints of one kind: their temperatures about their mean, in °C, the sum of those
// that failed, and how many did.
type oddsStratum struct {
	kind   string
	tempC  []float64
	failed int
	sum    float64
}

func (s oddsStratum) ends() (least, most float64) {
	least, most = math.Inf(1), math.Inf(-1)
	for _, t := range s.tempC {
		least, most = math.Min(least, t), math.Max(most, t)
	}
	return least, most
}

// oddsStrata parts judged prints with a temperature by their kinds, in the order in which these come.
func oddsStrata(prints []WarmPrint) (out []oddsStratum) {
	at := map[string]int{}
	for _, p := range prints {
		if p.TempC == nil || p.Counts.Specimens == p.Counts.Pending {
			continue
		}
		i, known := at[p.Kind]
		if !known {
			i = len(out)
			at[p.Kind], out = i, append(out, oddsStratum{kind: p.Kind})
		}
		out[i].tempC = append(out[i].tempC, *p.TempC)
		if p.Counts.Failed > 0 {
			out[i].failed, out[i].sum = out[i].failed+1, out[i].sum+*p.TempC
		}
	}
	return out
}

// steepestOdds bounds the slope that is looked for: from one end of the temperatures to the other the log
// odds change by no more.
const steepestOdds = 40

// oddsSlope is the slope at which the penalised likelihood is greatest, and the ends of its interval.
func oddsSlope(strata []oddsStratum, spanC float64) (slope, low, high float64) {
	const golden = 0.6180339887498949
	steepest := steepestOdds / spanC
	a, b := -steepest, steepest
	for range 80 { // the penalised likelihood of one slope has one top
		left, right := b-golden*(b-a), a+golden*(b-a)
		if penalised(strata, left) < penalised(strata, right) {
			a = left
		} else {
			b = right
		}
	}
	slope = (a + b) / 2
	const halfChi2 = 1.9207294103470362 // of the 95 % point of one degree of freedom
	floor := penalised(strata, slope) - halfChi2
	end := func(towards float64) float64 {
		in, beyond := slope, towards
		if penalised(strata, beyond) > floor {
			return beyond
		}
		for range 80 {
			if middle := (in + beyond) / 2; penalised(strata, middle) > floor {
				in = middle
			} else {
				beyond = middle
			}
		}
		return in
	}
	return slope, end(-steepest), end(steepest)
}

// penalised is the conditional log likelihood of a slope with half the log of its information.
func penalised(strata []oddsStratum, slope float64) float64 {
	var likelihood, information float64
	for _, s := range strata {
		ways, variance := s.choices(slope)
		likelihood += slope*s.sum - ways
		information += variance
	}
	return likelihood + math.Log(information)/2
}

// choices weighs every way to choose as many prints as failed, each by e to the slope times the sum of
// its temperatures: the log of the weights together, and the variance of that sum. It adds print after
// print, keeping for each number chosen the log weight, mean and variance, which neither overflows nor
// cancels (after Gail, Lubin and Rubinstein 1981).
func (s oddsStratum) choices(slope float64) (logWeight, variance float64) {
	type state struct{ log, mean, variance float64 }
	of := make([]state, s.failed+1)
	for m := range of {
		of[m].log = math.Inf(-1)
	}
	of[0].log = 0
	for n, t := range s.tempC {
		for m := min(n+1, s.failed); m >= 1; m-- {
			without, with := of[m], of[m-1]
			with.log, with.mean = with.log+slope*t, with.mean+t
			if math.IsInf(with.log, -1) {
				continue
			}
			share := 1 / (1 + math.Exp(without.log-with.log))
			apart := with.mean - without.mean
			of[m] = state{
				with.log - math.Log(share),
				without.mean + share*apart,
				(1-share)*without.variance + share*with.variance + share*(1-share)*apart*apart,
			}
		}
	}
	return of[s.failed].log, of[s.failed].variance
}

func (o WarmOdds) words() string {
	text := fmt.Sprintf("One degree more multiplies the odds that a print fails by %s (%s), from %s of %s between %s and %s °C, of which %s failed",
		say.Figure(o.PerC), say.Interval(o.CI[0], o.CI[1], ""), say.Counted(o.Prints, "print"), say.Counted(o.Kinds, "kind of plate", "kinds of plates"), say.Figure(o.FromC), say.Figure(o.ToC), say.Figure(float64(o.Failed)))
	if o.CI[0] <= 1 && o.CI[1] >= 1 {
		return text + ": it may as well do nothing."
	}
	return text + "."
}
