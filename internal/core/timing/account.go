package timing

import (
	"cmp"
	"math"
	"slices"

	"ojime/internal/core/quantity"
)

// What a setting can be of a measured difference in time.
const (
	// Most is a setting that accounts for at least half of the difference.
	Most = "most"
	// Part is one that accounts for a tenth or more.
	Part = "part"
	// Impossible is one that cannot be the reason: it accounts for less than a tenth,
	// or works the other way.
	Impossible = "impossible"
)

// Shares of a difference from which a setting is most or part of it. They are ours: a
// tenth of a difference is about what printers' clocks and starts leave open.
const (
	mostOfIt = 0.5
	partOfIt = 0.1
)

// leastEffectS is what a setting must do in seconds to be spoken of.
const leastEffectS = 1

// What of a measured difference is too much to be left without a word: a quarter of it, or
// two minutes where there is no difference though the settings ask for one.
const (
	leastRestShare = 0.25
	leastUntoldS   = 120
)

// leastApart is the share of a print's time under which there is no difference to explain.
const leastApart = 0.01

// Account is how much of a difference in time one setting accounts for: MovesS is its
// part of a − b in s, Share that of the difference, 1 all of it.
type Account struct {
	Setting string  `json:"setting"`
	MovesS  float64 `json:"moves_s"`
	Share   float64 `json:"share"`
	Can     string  `json:"can"`
}

// Accounts is the difference of two prints' times, measured where that is known and
// modelled otherwise, told by settings that differ, the largest first. RestS is what of
// the measured difference no setting accounts for, nil without one. Alike says that the
// times differ by less than a hundredth: there is nothing to account for.
type Accounts struct {
	Alike       bool      `json:"alike"`
	DifferenceS float64   `json:"difference_s"`
	Settings    []Account `json:"settings"`
	RestS       *float64  `json:"rest_s"`
	// Unexplained says that the rest is too much to be left without a word.
	Unexplained bool `json:"unexplained"`
}

// AccountFor holds an explanation against what was measured, a − b in s, nil where it was
// not. It accounts for nothing where the two differ by less than a hundredth of b's time
// ofS, in s.
func AccountFor(e ExplainResult, measuredS *float64, ofS float64) Accounts {
	out := Accounts{DifferenceS: quantity.Or(measuredS, e.DifferenceS), Settings: []Account{}}
	if measuredS != nil {
		out.RestS = quantity.Ptr(*measuredS - e.DifferenceS)
	}
	out.Alike = math.Abs(out.DifferenceS) < leastApart*ofS
	if out.RestS != nil {
		out.Unexplained = math.Abs(*out.RestS) >= leastRestShare*math.Abs(out.DifferenceS)
		if out.Alike {
			out.Unexplained = math.Abs(*out.RestS) >= leastUntoldS
		}
	}
	if out.Alike {
		return out
	}
	for _, s := range e.Settings {
		if math.Abs(s.EffectS) < leastEffectS {
			continue
		}
		a := Account{Setting: s.Setting, MovesS: -s.EffectS, Share: -s.EffectS / out.DifferenceS}
		switch {
		case a.Share >= mostOfIt:
			a.Can = Most
		case a.Share >= partOfIt:
			a.Can = Part
		default:
			a.Can = Impossible
		}
		out.Settings = append(out.Settings, a)
	}
	slices.SortStableFunc(out.Settings, func(a, b Account) int { return cmp.Compare(math.Abs(b.MovesS), math.Abs(a.MovesS)) })
	return out
}
