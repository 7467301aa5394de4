package compare

import (
	"fmt"
	"reflect"
	"strings"

	"ojime/internal/bench"
	"ojime/internal/core/timing"
	"ojime/internal/say"
	"ojime/internal/work/planning"
	"ojime/internal/work/side"
)

// TimeSplit is where the time of a side's plate goes, by the model of a print in which a
// layer costs the same however full it is; seconds. Reason says why it is not known.
type TimeSplit struct {
	Known  bool                   `json:"known"`
	TotalS float64                `json:"total_s"`
	Phases timing.MaskedBreakdown `json:"phases"`
	Reason string                 `json:"reason"`
}

// Why is the reasons for a difference of two sides' times in sentences, measured where a
// plate of both is.
type Why struct {
	A         int      `json:"a"`
	B         int      `json:"b"`
	Sentences []string `json:"sentences"`
}

// explainTimes splits the time of each side and holds each against the baseline.
func (c *Comparison) explainTimes(sides []side.Prints) error {
	c.TimeSplits, c.Whys = make([]TimeSplit, len(sides)), []Why{}
	inputs := make([]timing.MaskedInput, len(sides))
	for i, s := range sides {
		var err error
		if inputs[i], c.TimeSplits[i], err = timeSplitOf(s); err != nil {
			return err
		}
	}
	for i := range sides {
		if i == c.Baseline || !c.TimeSplits[i].Known || !c.TimeSplits[c.Baseline].Known {
			continue
		}
		e, err := timing.Explain(timing.ExplainInput{A: inputs[i], B: inputs[c.Baseline]})
		if err != nil {
			return err
		}
		plate, measuredS := c.apartS(i)
		accounts := timing.AccountFor(e, measuredS, c.TimeSplits[c.Baseline].TotalS)
		c.Whys = append(c.Whys, Why{i, c.Baseline, accountSentences(accounts, plate, side.Letter(i), side.Letter(c.Baseline))})
	}
	return nil
}

// timeSplitOf is the time of the side's plates, where one set of settings and one height
// tell it.
func timeSplitOf(s side.Prints) (in timing.MaskedInput, out TimeSplit, err error) {
	for i, sheet := range s.Sheets {
		p := sheet.Profile
		switch {
		case s.Reference != nil:
			out.Reason = "it is a reference, which no print on record made"
		case s.Machine.LightEngine == bench.Laser:
			out.Reason = "a laser draws each slice: its time has no such phases"
		case p.ExposureS == nil || p.BottomExposureS == nil:
			out.Reason = "its machine hides its settings"
		case sheet.Run.Layers == 0:
			out.Reason = "its layers are not known"
		}
		if out.Reason != "" {
			return in, out, nil
		}
		of := planning.MaskedInputOf(s.Machine, p, sheet.Run.Layers, *p.ExposureS)
		if i > 0 && !reflect.DeepEqual(in, of) {
			out.Reason = "its prints differ in settings or height"
			return in, out, nil
		}
		in = of
	}
	res, err := timing.Masked(in)
	if err != nil {
		return in, out, fmt.Errorf("the time of %s: %w", s.Sheets[0].Run.Code, err)
	}
	out.Known, out.TotalS, out.Phases = true, res.TotalS, res.Breakdown
	return in, out, nil
}

// apartS is by how many seconds a side's plates took longer than the baseline's, for the
// plate of which both have the most prints; nil where none is of both.
func (c *Comparison) apartS(i int) (plate string, apartS *float64) {
	var most int64
	for _, m := range c.Measures {
		name, isTime := strings.CutPrefix(m.Key, timeOf)
		if !isTime {
			continue
		}
		a, b := m.Sides[i], m.Sides[c.Baseline]
		if a.Value == nil || b.Value == nil || a.Prints+b.Prints <= most {
			continue
		}
		apart := *a.Value - *b.Value
		plate, apartS, most = name, &apart, a.Prints+b.Prints
	}
	return plate, apartS
}

// longer says by how much a takes longer or less than b.
func longer(s float64) string {
	if s < 0 {
		return say.Duration(-s) + " less"
	}
	return say.Duration(s) + " longer"
}

func accountSentences(accounts timing.Accounts, plate, a, b string) []string {
	if accounts.Alike {
		return alikeSentences(accounts, plate, a, b)
	}
	first := fmt.Sprintf("By their settings a plate takes %s on %s than on %s; no plate was measured on both.", longer(accounts.DifferenceS), a, b)
	if plate != "" {
		first = fmt.Sprintf("A plate of %s took %s on %s than on %s.", plate, longer(accounts.DifferenceS), a, b)
	}
	out := []string{first}
	if len(accounts.Settings) == 0 {
		return append(out, "No setting that differs accounts for that.")
	}
	for _, s := range accounts.Settings {
		words := fmt.Sprintf("%s for %s", settingWords[s.Setting], longer(s.MovesS))
		switch s.Can {
		case timing.Most:
			words += ": most of it."
		case timing.Part:
			words += ": part of it."
		default:
			words += ": it cannot be the reason."
		}
		out = append(out, words)
	}
	if accounts.Unexplained {
		out = append(out, fmt.Sprintf("The settings as they are entered leave %s on %s unexplained: the machine does something that they do not tell.", longer(*accounts.RestS), a))
	}
	return out
}

// alikeSentences are said of two times that are the same, though their settings may say
// that they should not be.
func alikeSentences(accounts timing.Accounts, plate, a, b string) []string {
	if plate == "" {
		return []string{fmt.Sprintf("By their settings a plate takes as long on %s as on %s, within a hundredth; no plate was measured on both.", a, b)}
	}
	out := []string{fmt.Sprintf("A plate of %s took as long on %s as on %s, within a hundredth.", plate, a, b)}
	if accounts.Unexplained {
		out = append(out, fmt.Sprintf("By their settings it should have taken %s on %s: one of the two does not do what its settings say.", longer(-*accounts.RestS), a))
	}
	return out
}

var settingWords = map[string]string{
	"height": "The height accounts", "layer": "The layer height accounts", "exposure": "The exposure accounts", "bottom": "The bottom layers account",
	"transition": "The transition layers account", "lift": "The lift accounts", "retract": "The retract accounts", "wait": "The waits account",
	"release": "The release accounts", "start_end": "Start and end account",
}
