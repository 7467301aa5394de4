package evidence

import (
	"fmt"
	"math"
	"math/rand/v2"
	"sort"

	"gonum.org/v1/gonum/stat/distuv"

	"ojime/internal/core/quantity"
	"ojime/internal/core/stats"
)

// Life is one film, panel or other thing that wears: how long it was seen, in
// layers or hours, and whether what is asked for (Event) came at that age. A
// life that ended otherwise, or still goes on, is censored.
type Life struct {
	Age   float64 `json:"age"`
	Event bool    `json:"event"`
}

// SurvivalStep is the share of lives still without the event after an age, with
// its 95 % interval (log-minus-log of Greenwood's variance).
type SurvivalStep struct {
	Age    float64            `json:"age"`
	AtRisk int64              `json:"at_risk"`
	Events int64              `json:"events"`
	Share  float64            `json:"share"`
	CI     *quantity.Interval `json:"ci"`
}

// SurvivalResult is the curve and the age by which half had the event, nil where
// the curve does not come down to a half.
type SurvivalResult struct {
	Lives  int64          `json:"lives"`
	Events int64          `json:"events"`
	Steps  []SurvivalStep `json:"steps"`
	Median *float64       `json:"median"`
	quantity.Warnings
}

// fewestEvents is from how many events on a curve is said to mean something.
const fewestEvents = 3

// Survival is the product-limit estimate of Kaplan and Meier (1958) with
// Greenwood's variance on the log-minus-log scale. It warns too_few below three
// events: the steps are then shown and nothing is concluded from them.
func Survival(lives []Life) (SurvivalResult, error) {
	var c quantity.Checks
	for i, l := range lives {
		c.NotBelow(fmt.Sprintf("lives[%d].age", i), l.Age)
	}
	if c.Err() != nil {
		return SurvivalResult{}, c.Err()
	}
	sorted := append([]Life(nil), lives...)
	sort.Slice(sorted, func(i, j int) bool { return sorted[i].Age < sorted[j].Age })
	out := SurvivalResult{Lives: int64(len(lives)), Steps: []SurvivalStep{}, Warnings: quantity.None()}
	share, greenwood := 1.0, 0.0
	for i := 0; i < len(sorted); {
		age, atRisk, events := sorted[i].Age, len(sorted)-i, 0
		for ; i < len(sorted) && sorted[i].Age == age; i++ {
			if sorted[i].Event {
				events++
			}
		}
		if events == 0 {
			continue
		}
		out.Events += int64(events)
		share *= 1 - float64(events)/float64(atRisk)
		step := SurvivalStep{Age: age, AtRisk: int64(atRisk), Events: int64(events), Share: share}
		if atRisk > events {
			greenwood += float64(events) / (float64(atRisk) * float64(atRisk-events))
			half := stats.Z * math.Sqrt(greenwood) / math.Abs(math.Log(share))
			step.CI = &quantity.Interval{math.Pow(share, math.Exp(half)), math.Pow(share, math.Exp(-half))}
		}
		out.Steps = append(out.Steps, step)
		if out.Median == nil && quantity.AtMost(share, 0.5) {
			out.Median = quantity.Ptr(age)
		}
	}
	if out.Events < fewestEvents {
		out.Warn("too_few", "Only %d of %d lives had a failure; three and more are needed before the curve says anything.", out.Events, out.Lives)
	}
	return out, nil
}

// Dose is a count at some level of what may matter, such as failed prints among
// those on a film of some age.
type Dose struct {
	Level float64 `json:"level"`
	Count
}

// TrendResult says whether a rate rises or falls with a level.
type TrendResult struct {
	Z       *float64 `json:"z"`
	P       *float64 `json:"p"`
	Verdict string   `json:"verdict"`
}

// Trend is the test of Cochran (1954) and Armitage (1955) for a trend of a rate
// over levels. Without events, without others or with one level it shows nothing.
func Trend(doses []Dose) (TrendResult, error) {
	var c quantity.Checks
	var n, events, sx, sxx, sxe float64
	for i, d := range doses {
		d.check(&c, fmt.Sprintf("doses[%d].", i), 0)
		c.Number(fmt.Sprintf("doses[%d].level", i), d.Level)
		trials := float64(d.Trials)
		n, events = n+trials, events+float64(d.Events)
		sx, sxx, sxe = sx+trials*d.Level, sxx+trials*d.Level*d.Level, sxe+float64(d.Events)*d.Level
	}
	if c.Err() != nil {
		return TrendResult{}, c.Err()
	}
	out := TrendResult{Verdict: NotShown}
	if n == 0 || events == 0 || events == n {
		return out, nil
	}
	rate := events / n
	variance := rate * (1 - rate) * (sxx - sx*sx/n)
	if variance <= 1e-12*sxx {
		return out, nil
	}
	z := (sxe - rate*sx) / math.Sqrt(variance)
	p := 2 * distuv.UnitNormal.CDF(-math.Abs(z))
	out.Z, out.P, out.Verdict = &z, &p, VerdictOf(p)
	return out, nil
}

// TrendInTime asks as Trend does, of prints in the order of time whose failures may come in
// streaks: a bad bottle or a cold week fails several in a row. Blocks of prints that follow
// each other, each of one and a half times the cube root of their number (the rate at which
// blocks must grow; the factor keeps false alarms of streaks of two prints below one in
// ten), are dealt anew over time as wholes, and
// p is the share of deals whose trend is at least the one seen; Z stays that of Trend.
func TrendInTime(doses []Dose, seed uint64) (TrendResult, error) {
	out, err := Trend(doses)
	if err != nil || out.P == nil {
		return out, err
	}
	long := int(math.Ceil(1.5 * math.Cbrt(float64(len(doses)))))
	var blocks [][]int
	for from := 0; from < len(doses); from += long {
		block := []int{}
		for i := from; i < min(from+long, len(doses)); i++ {
			block = append(block, i)
		}
		blocks = append(blocks, block)
	}
	var trials, level float64
	for _, d := range doses {
		trials, level = trials+float64(d.Trials), level+float64(d.Trials)*d.Level
	}
	lean := func() float64 {
		sum, at := 0.0, 0
		for _, block := range blocks {
			for _, i := range block {
				sum, at = sum+float64(doses[i].Events)*(doses[at].Level-level/trials), at+1
			}
		}
		return math.Abs(sum)
	}
	seen, further := lean(), 1
	chance := rand.New(rand.NewPCG(seed, uint64(len(doses))))
	for range usualDraws {
		chance.Shuffle(len(blocks), func(i, j int) { blocks[i], blocks[j] = blocks[j], blocks[i] })
		if lean() >= seen-1e-9 {
			further++
		}
	}
	p := float64(further) / float64(1+usualDraws)
	out.P, out.Verdict = &p, VerdictOf(p)
	return out, nil
}
