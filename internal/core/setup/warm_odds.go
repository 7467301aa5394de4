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

// halfChi2 is half the 95 % point of χ² of one degree of freedom.
const halfChi2 = 1.9207294103470362

// oddsSlope is the slope at which the penalised likelihood is greatest, and the ends of its interval. The
// likelihood of one slope has one top: it is enclosed by the golden section, and then read off parabolas.
func oddsSlope(strata []oddsStratum, spanC float64) (slope, low, high float64) {
	const golden = 0.6180339887498949
	steepest := steepestOdds / spanC
	of := func(b float64) float64 { return penalised(strata, b) }
	a, b := -steepest, steepest
	left, right := b-golden*(b-a), a+golden*(b-a)
	atLeft, atRight := of(left), of(right)
	for b-a > steepest/500 {
		if atLeft < atRight {
			a, left, atLeft = left, right, atRight
			right = a + golden*(b-a)
			atRight = of(right)
		} else {
			b, right, atRight = right, left, atLeft
			left = b - golden*(b-a)
			atLeft = of(left)
		}
	}
	slope = (a + b) / 2
	top := of(slope)
	for step := (b - a) / 2; step > 1e-7*steepest; step /= 20 {
		before, after := of(slope-step), of(slope+step)
		if bend := before - 2*top + after; bend < 0 {
			slope += step * (before - after) / (2 * bend)
			top = of(slope)
		}
	}
	below := func(b float64) float64 { return of(b) - top + halfChi2 }
	return slope, crossing(below, slope, -steepest), crossing(below, slope, steepest)
}

// crossing is where a function that is above 0 inside falls to 0 towards outside, or outside where it never
// does: by the false position of Illinois.
func crossing(f func(float64) float64, inside, outside float64) float64 {
	fIn, fOut := f(inside), f(outside)
	if fOut >= 0 {
		return outside
	}
	side := 0
	for range 100 {
		at := (fIn*outside - fOut*inside) / (fIn - fOut)
		if math.IsInf(fOut, -1) {
			at = (inside + outside) / 2
		}
		v := f(at)
		switch {
		case math.Abs(v) < 1e-9:
			return at
		case v > 0:
			inside, fIn = at, v
			if side == 1 {
				fOut /= 2
			}
			side = 1
		default:
			outside, fOut = at, v
			if side == -1 {
				fIn /= 2
			}
			side = -1
		}
	}
	return inside
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
// its temperatures: the log of the weights together, and the variance of that sum. Each print is taken
// to be chosen with a chance in proportion to its weight, so that as many as failed are expected: the
// ways to choose that many are then among the likely ones, and neither overflow nor vanish (after Chen,
// Dempster and Liu 1994).
func (s oddsStratum) choices(slope float64) (logWeight, variance float64) {
	logOdds := s.logOdds(slope)
	chances, log := make([]float64, len(s.tempC)), 0.0
	var expected, weighted float64
	for i, t := range s.tempC {
		x := slope*t + logOdds
		chances[i] = 1 / (1 + math.Exp(-x))
		log += math.Max(x, 0) + math.Log1p(math.Exp(-math.Abs(x))) // ln(1 + e^x)
		expected, weighted = expected+chances[i], weighted+chances[i]*t
	}
	middle := weighted / expected
	type moments struct{ chance, sum, square float64 }
	of := make([]moments, s.failed+1)
	of[0].chance = 1
	for n, t := range s.tempC {
		p, x := chances[n], t-middle
		for m := min(n+1, s.failed); m >= 0; m-- {
			next := moments{of[m].chance * (1 - p), of[m].sum * (1 - p), of[m].square * (1 - p)}
			if m > 0 {
				w := of[m-1]
				next.chance += p * w.chance
				next.sum += p * (w.sum + x*w.chance)
				next.square += p * (w.square + x*(2*w.sum+x*w.chance))
			}
			of[m] = next
		}
	}
	last := of[s.failed]
	mean := last.sum / last.chance
	return math.Log(last.chance) + log - float64(s.failed)*logOdds, math.Max(0, last.square/last.chance-mean*mean)
}

// logOdds are those of a print at 0 °C with which as many prints are expected to be chosen as failed.
func (s oddsStratum) logOdds(slope float64) float64 {
	least, most := s.ends()
	low, high := -math.Max(slope*least, slope*most)-40, -math.Min(slope*least, slope*most)+40
	at := (low + high) / 2
	for range 60 {
		var expected, spread float64
		for _, t := range s.tempC {
			p := 1 / (1 + math.Exp(-slope*t-at))
			expected, spread = expected+p, spread+p*(1-p)
		}
		off := expected - float64(s.failed)
		if off > 0 {
			high = at
		} else {
			low = at
		}
		if math.Abs(off) < 1e-6 {
			break
		}
		if at -= off / spread; !(at > low && at < high) {
			at = (low + high) / 2
		}
	}
	return at
}

func (o WarmOdds) words() string {
	text := fmt.Sprintf("One degree more multiplies the odds that a print fails by %s (%s), from %s of %s between %s and %s °C, of which %s failed",
		say.Figure(o.PerC), say.Interval(o.CI[0], o.CI[1], ""), say.Counted(o.Prints, "print"), say.Counted(o.Kinds, "kind of plate", "kinds of plates"), say.Figure(o.FromC), say.Figure(o.ToC), say.Figure(float64(o.Failed)))
	if o.CI[0] <= 1 && o.CI[1] >= 1 {
		return text + ": it may as well do nothing."
	}
	return text + "."
}
