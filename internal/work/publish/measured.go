package publish

import (
	"fmt"
	"slices"
	"strings"

	"ojime/internal/bench"
	"ojime/internal/core/quantity"
	"ojime/internal/core/rating"
	"ojime/internal/say"
	"ojime/internal/store"
	"ojime/internal/work/instruments"
	"ojime/internal/work/money"
	"ojime/internal/work/printing"
)

// materialsOf say what was printed with, bottle by bottle, and between which days.
func materialsOf(t *store.Tx, sheets []*printing.RunSheet, nowMS int64) (out []string, err error) {
	bottles, err := t.Bottles()
	if err != nil || len(sheets) == 0 {
		return nil, err
	}
	prints := map[string]int64{}
	var resins []bench.Resin
	unnamed := map[string]int64{}
	for _, s := range sheets {
		if !slices.ContainsFunc(resins, func(r bench.Resin) bool { return r.ID == s.Resin.ID }) {
			resins = append(resins, s.Resin)
		}
		if s.Run.BottleID == nil {
			unnamed[s.Resin.ID]++
		} else {
			prints[*s.Run.BottleID]++
		}
	}
	for _, r := range resins {
		var from []string
		for _, b := range bottles {
			if b.ResinID == r.ID && prints[b.ID] > 0 {
				from = append(from, fmt.Sprintf("%s (%s) in %s", b.Code, bottleWords(b), say.Counted(prints[b.ID], "print")))
			}
		}
		if n := unnamed[r.ID]; n > 0 {
			from = append(from, fmt.Sprintf("from a bottle that nobody noted in %s", say.Counted(n, "print")))
		}
		asked, err := money.Of(t, r, nowMS)
		if err != nil {
			return nil, err
		}
		out = append(out, fmt.Sprintf("%s: %s. %s", r.Name, strings.Join(append(resinWords(r), from...), "; "), asked.Basis))
	}
	first, last := say.Day(sheets[0].Run.StartedMS), say.Day(sheets[len(sheets)-1].Run.StartedMS)
	when := "on " + first
	if last != first {
		when = "from " + first + " to " + last
	}
	return append(out, fmt.Sprintf("Printed %s, %s.", when, say.Counted(int64(len(sheets)), "print"))), nil
}

func resinWords(r bench.Resin) (out []string) {
	for _, w := range []string{r.Maker, r.Family} {
		if strings.TrimSpace(w) != "" {
			out = append(out, w)
		}
	}
	return out
}

func bottleWords(b bench.Bottle) string {
	words := []string{"lot " + b.Lot}
	if b.Lot == "" {
		words[0] = "lot not noted"
	}
	if b.OpenedOn != nil {
		words = append(words, "opened "+*b.OpenedOn)
	}
	if b.ExpiresOn != nil {
		words = append(words, "good until "+*b.ExpiresOn)
	}
	return strings.Join(words, ", ")
}

// measuredWith is an instrument or a scale that readings of a review were taken with, and what is known of it.
type measuredWith struct {
	Name, Says string
	Lines      []string
}

// measuredBy are the instruments, scales and photographs that a review rests on.
func measuredBy(t *store.Tx, sheets []*printing.RunSheet, scales []rating.Scale) (out []measuredWith, err error) {
	tools, err := t.Instruments()
	if err != nil {
		return nil, err
	}
	used, rated, by, pictures, scaled := map[string]int64{}, map[string]int64{}, map[string][]string{}, int64(0), int64(0)
	for _, s := range sheets {
		for _, r := range s.Readings {
			used[quantity.Or(r.InstrumentID, "")]++
		}
		for _, r := range s.Ratings {
			if rated[r.Scale]++; !slices.Contains(by[r.Scale], r.Sitting.Rater) {
				by[r.Scale] = append(by[r.Scale], r.Sitting.Rater)
			}
		}
		for _, p := range s.Photographs {
			if pictures++; p.MMPerPX != nil {
				scaled++
			}
		}
	}
	for _, i := range tools {
		if used[i.ID] == 0 {
			continue
		}
		one := measuredWith{Name: i.Name, Says: fmt.Sprintf("a %s, %s.", say.Words(i.Kind), say.Counted(used[i.ID], "reading"))}
		if i.Unit() == "mm" {
			one.Says = fmt.Sprintf("a %s that shows %s mm, reference good to ± %s mm (k = 2), %s.", say.Words(i.Kind), say.Figure(i.ResolutionMM), say.Figure(2*i.ReferenceUMM), say.Counted(used[i.ID], "reading"))
		}
		if one.Lines, err = instruments.Trust(t, i); err != nil {
			return nil, err
		}
		out = append(out, one)
	}
	if n := used[""]; n > 0 {
		out = append(out, measuredWith{Name: "By eye", Says: say.Counted(n, "reading") + " of what stood, was open or was missing, with no instrument."})
	}
	for _, s := range scales {
		if n := rated[s.Key]; n > 0 {
			one := measuredWith{Name: s.Name, Says: fmt.Sprintf("judged 0 to 4, %s by %s. What each step means:", say.Counted(n, "score"), strings.Join(by[s.Key], ", "))}
			for step, anchor := range s.Anchors {
				if anchor != "" {
					one.Lines = append(one.Lines, fmt.Sprintf("%d: %s", step, anchor))
				}
			}
			out = append(out, one)
		}
	}
	if pictures > 0 {
		out = append(out, measuredWith{Name: "Photographs", Says: fmt.Sprintf("%s, %d of them with a scale to measure by.", say.Counted(pictures, "picture"), scaled)})
	}
	return out, nil
}
