package setup

import (
	"fmt"
	"slices"

	"ojime/internal/core/machine"
	"ojime/internal/core/outcome"
	"ojime/internal/core/quantity"
	"ojime/internal/say"
)

// WarmPrint is a print with the temperature that it was made at, in °C (nil where not
// known), the window of its resin, what lay on its plate and under which settings (Kind), its time in s (nil where
// there is none) and what became of its copies.
type WarmPrint struct {
	Kind   string
	TempC  *float64
	Window machine.Window
	TookS  *float64
	Counts outcome.Counts
}

// WarmBand are the prints of one side in one band of temperature.
type WarmBand struct {
	Band   string  `json:"band" enum:",cold,hot"`
	LeastC float64 `json:"least_c"`
	MostC  float64 `json:"most_c"`
	Prints int64   `json:"prints"`
	Failed int64   `json:"failed"`
	Judged int64   `json:"judged"`
}

// WarmContrast is what the cold, or the heat, did on one side against its usual prints: the
// ratio of times over the kinds of plates that both have (nil without any), and failures.
type WarmContrast struct {
	Band    WarmBand           `json:"band"`
	Against WarmBand           `json:"against"`
	Ratio   *float64           `json:"ratio"`
	CI      *quantity.Interval `json:"ci"`
	Kinds   int64              `json:"kinds"`
	Says    string             `json:"says"`
}

// ByTemperature sets the prints of a side in the cold, and in the heat, against those at the
// usual temperatures; where none were usual, the hot against the cold. It is empty where all
// prints were made in one band, or their temperatures are not known.
func ByTemperature(prints []WarmPrint) []WarmContrast {
	byBand := map[string][]WarmPrint{}
	for _, p := range prints {
		if p.TempC != nil {
			band := Band(p.TempC, p.Window)
			byBand[band] = append(byBand[band], p)
		}
	}
	usual := ""
	if len(byBand[usual]) == 0 {
		usual = Cold
	}
	out := []WarmContrast{}
	for _, band := range []string{Cold, Hot} {
		if band != usual && len(byBand[band]) > 0 && len(byBand[usual]) > 0 {
			out = append(out, contrast(band, usual, byBand[band], byBand[usual]))
		}
	}
	return out
}

func contrast(band, usual string, a, b []WarmPrint) WarmContrast {
	out := WarmContrast{Band: warmBand(band, a), Against: warmBand(usual, b)}
	var kinds []string
	var strata []TimeStratum
	for _, p := range a {
		if slices.Contains(kinds, p.Kind) {
			continue
		}
		kinds = append(kinds, p.Kind)
		if s := (TimeStratum{timesOfKind(a, p.Kind), timesOfKind(b, p.Kind)}); len(s.A) > 0 && len(s.B) > 0 {
			strata = append(strata, s)
		}
	}
	if len(strata) > 0 {
		r := MatchedTimes(strata)
		out.Ratio, out.CI, out.Kinds = &r.Ratio, r.CI, int64(len(strata))
	}
	out.Says = out.sentence()
	return out
}

func timesOfKind(prints []WarmPrint, kind string) (out []float64) {
	for _, p := range prints {
		if p.Kind == kind && p.TookS != nil && *p.TookS > 0 {
			out = append(out, *p.TookS)
		}
	}
	return out
}

func warmBand(band string, prints []WarmPrint) WarmBand {
	out := WarmBand{Band: band, LeastC: *prints[0].TempC, MostC: *prints[0].TempC, Prints: int64(len(prints))}
	for _, p := range prints {
		out.LeastC, out.MostC = min(out.LeastC, *p.TempC), max(out.MostC, *p.TempC)
		out.Failed, out.Judged = out.Failed+p.Counts.Failed, out.Judged+p.Counts.Judged()
	}
	return out
}

func (b WarmBand) words() string {
	degrees := rangeOf([]float64{b.LeastC, b.MostC}, say.Figure)
	return fmt.Sprintf("%s °C (%s)", degrees, say.Counted(b.Prints, "print"))
}

func (c WarmContrast) sentence() string {
	text := fmt.Sprintf("At %s against %s", c.Band.words(), c.Against.words())
	if c.Ratio == nil {
		text += ": no plate that holds the same has a time in both"
	} else {
		text += fmt.Sprintf(": a plate took %s times as long", say.Figure(*c.Ratio))
		if c.CI != nil {
			text += fmt.Sprintf(" (%s)", say.Interval(c.CI[0], c.CI[1], ""))
		} else {
			text += ", without an interval"
		}
	}
	for i, b := range []WarmBand{c.Band, c.Against} {
		text += []string{"; ", " against "}[i]
		if b.Judged == 0 {
			text += "none judged"
			continue
		}
		text += fmt.Sprintf("%d of %s", b.Failed, say.Counted(b.Judged, "copy", "copies")) + []string{" failed", ""}[i]
	}
	return text + "."
}
