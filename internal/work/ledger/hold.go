package ledger

import (
	"fmt"
	"slices"
	"strings"

	"ojime/internal/bench"
	"ojime/internal/core/claims"
	"ojime/internal/core/evidence"
	"ojime/internal/core/machine"
	"ojime/internal/core/outcome"
	"ojime/internal/core/quantity"
	"ojime/internal/say"
	"ojime/internal/work/kit"
	"ojime/internal/work/side"
)

// speed holds a claimed speed against how the review's prints of the machine rose.
func (b book) speed(c bench.LedgerClaim, row *LedgerRow) error {
	var ids []string
	known := map[string]bool{}
	for _, s := range b.setups {
		for _, id := range s.RunIDs {
			if s.MachineID == *c.MachineID && !known[id] {
				known[id], ids = true, append(ids, id)
			}
		}
	}
	sheets, err := b.reader.Sheets(ids...)
	if err != nil || len(ids) == 0 {
		return err
	}
	speed := side.SpeedOf(sheets)
	if speed == nil {
		row.Says = "none of its prints has a height and a time"
		return nil
	}
	bound := c.Bound
	if bound == "" {
		bound = claims.Least
	}
	row.State = claims.Held(bound, *c.Value, speed.CI)
	row.Says = say.Figure(speed.MMH) + " mm/h"
	if speed.CI != nil {
		row.Says += fmt.Sprintf(" (%s)", say.Interval(speed.CI[0], speed.CI[1], "mm/h"))
	}
	row.Says += fmt.Sprintf(" over %s of this review, their first layers included", say.Counted(speed.Prints, "print"))
	return nil
}

// ratio says of what a claimed ratio is one.
func (b book) ratio(c bench.LedgerClaim, row *LedgerRow) error {
	plates := make([]claims.Plate, 2)
	for i, id := range []string{*c.MachineID, *c.AgainstID} {
		m, err := b.lookup.Machine(id)
		if err != nil {
			return err
		}
		if m.PxX == nil || m.PxY == nil {
			row.State, row.Says = claims.Untestable, m.Name+" has no pixels on record"
			return nil
		}
		plates[i] = claims.Plate{WidthMM: m.WidthMM, DepthMM: m.DepthMM, PxX: *m.PxX, PxY: *m.PxY, HeightMM: &m.HeightMM}
	}
	ratios, err := claims.Quantity(claims.QuantityInput{A: plates[0], B: plates[1], ClaimedRatio: c.Value})
	if err != nil {
		return err
	}
	row.State, row.Says = claims.RatioIs(c.Of, *c.Value, ratios)
	return nil
}

// life holds a claimed life against what the part has done, in weeks at the owner's hours.
func (b book) life(c bench.LedgerClaim, row *LedgerRow) error {
	settings, err := b.t.Settings()
	if err != nil {
		return err
	}
	history, err := kit.HistoryOf(b.t, *c.MachineID)
	if err != nil {
		return err
	}
	runs, err := b.t.RunsOfMachine(*c.MachineID)
	if err != nil {
		return err
	}
	in := claims.LifeInput{Life: *c.Value, Unit: "h", HPerWeek: settings.RunHPerWeek, PerHour: 1}
	var since int64
	if at := history.Last("filter", b.nowMS); at != nil && c.Of == "filter_h" {
		since = *at
	}
	var hours, layers, lit, sinceH float64
	var prints, hidden int64 // hidden are those whose exposure, and with it their light, is not known
	for _, r := range runs {
		if r.EndedMS == nil || r.SpeedUp != nil || r.ClockWentBack {
			continue
		}
		prints++
		if r.WornLightS == nil {
			hidden++
		}
		h := max(0, float64(*r.EndedMS-r.StartedMS)/1000-r.PausedS) / 3600
		hours, layers, lit = hours+h, layers+float64(r.WornLayers), lit+quantity.Or(r.WornLightS, 0)/3600
		if r.StartedMS >= since {
			sinceH += h
		}
	}
	seen, what := machine.Wear{AtLeast: sinceH}, "filter"
	switch c.Of {
	case "film_layers":
		seen, in.Unit, in.PerHour, what = history.FilmWear(b.nowMS), "layers", 0, "film"
		if hours > 0 {
			in.PerHour = layers / hours
		}
	case "light_h":
		seen, in.PerHour, what = history.LightWear(b.nowMS), 0, "light source"
		if hours > 0 {
			in.PerHour = lit / hours
		}
	}
	in.Used = seen.AtLeast
	held, err := claims.Life(in)
	if err != nil {
		return err
	}
	row.Number, row.State, row.Says = fmt.Sprintf("%s: %s", what, say.InUnit(say.Whole(*c.Value), in.Unit)), held.State, held.Says
	if c.Of == "light_h" && hidden > 0 {
		return hideLight(row, prints, hidden)
	}
	if seen.Amount == nil && c.Of != "filter_h" || c.Of == "filter_h" && since == 0 {
		row.Says += "; what it had done before the record began is not known"
	}
	return nil
}

// hideLight says of a claimed life in hours lit that prints with hidden exposures were lit for an unknown time, which is not 0.
func hideLight(row *LedgerRow, prints, hidden int64) error {
	if hidden == prints {
		row.State, row.Says = claims.Untested, fmt.Sprintf("how long it was lit is not known: its %s hide their exposures", say.Counted(prints, "print"))
		return nil
	}
	row.Says += fmt.Sprintf("; not counted are %d of %s, which hide their exposures", hidden, say.Counted(prints, "print"))
	return nil
}

// size holds a claimed side of the plate against what was found usable.
func (b book) size(c bench.LedgerClaim, row *LedgerRow) error {
	m, err := b.lookup.Machine(*c.MachineID)
	if err != nil {
		return err
	}
	usable, err := kit.UsableOf(b.t, m)
	if err != nil {
		return err
	}
	if usable.Verified == nil || c.Of == "height" && usable.Verified.HeightMM == nil {
		row.Says = "what is usable was not surveyed"
		return nil
	}
	found := map[string]float64{"width": usable.WidthMM, "depth": usable.DepthMM, "height": usable.HeightMM}[c.Of]
	bound := c.Bound
	if bound == "" {
		bound = claims.Least
	}
	row.State, row.Says = claims.Held(bound, *c.Value, &quantity.Interval{found, found}), fmt.Sprintf("%s mm were found usable", say.Figures(found, 5))
	return nil
}

// measures are the rows of the review's comparisons, each once.
func (b book) measures() []LedgerMeasure {
	out, seen := []LedgerMeasure{}, map[string]bool{}
	settings, err := b.t.Settings()
	currency := settings.Currency
	if err != nil {
		currency = "money"
	}
	for _, c := range b.contests {
		for _, m := range c.Results[0].Measures {
			if !seen[m.Key] {
				unit, _ := m.ReadIn(currency)
				seen[m.Key], out = true, append(out, LedgerMeasure{m.Key, m.Label, unit})
			}
		}
	}
	return out
}

// measure holds a claim against a row of the comparisons, for every set-up of its machine and resin.
func (b book) measure(c bench.LedgerClaim, row *LedgerRow, bound string) error {
	settings, err := b.t.Settings()
	if err != nil {
		return err
	}
	var states, says []string
	for _, of := range b.contests {
		for _, m := range of.Results[0].Measures {
			if m.Key != c.Of {
				continue
			}
			unit, per := m.ReadIn(settings.Currency)
			row.Number = fmt.Sprintf("%s: %s%s", m.Label, bound, say.InUnit(say.Figure(*c.Value), unit))
			for i, s := range of.SetUps {
				if s.ReferenceID != "" || c.MachineID != nil && *c.MachineID != s.MachineID || c.ResinID != nil && *c.ResinID != s.ResinID || m.Sides[i].Value == nil {
					continue
				}
				state := claims.Held(c.Bound, *c.Value*per, m.Sides[i].CI)
				states = append(states, state)
				told := m.Told(m.Sides[i])
				if ci := m.Sides[i].CI; ci != nil {
					told += fmt.Sprintf(", %s", say.Interval(ci[0]/per, ci[1]/per, unit))
				}
				says = append(says, fmt.Sprintf("%s, %s: %s (%s)", of.Piece, s.Label, told, say.Words(state)))
			}
		}
	}
	if row.Number == "" {
		row.Number = bound + say.Figure(*c.Value)
	}
	row.State = claims.Over(states)
	if failed := countedBy[c.Of]; failed != nil && len(states) > 0 {
		state, words, err := b.pooled(c, failed)
		if err != nil {
			return err
		}
		row.State, says = state, slices.Insert(says, 0, words)
	}
	if len(says) > 0 {
		row.Says = strings.Join(says, "; ")
	} else {
		row.Says = "no print of this review shows it"
	}
	return nil
}

// countedBy are the rates that a claim pools over all that it is about: one copy lost of three decides nothing of "at most 2 %".
var countedBy = map[string]func(outcome.Counts) int64{
	"failures": func(n outcome.Counts) int64 { return n.Failed }, "failures_machine": func(n outcome.Counts) int64 { return n.ByMachine },
	"failures_resin": func(n outcome.Counts) int64 { return n.ByResin }, "marks": func(n outcome.Counts) int64 { return n.MicroPrinted },
}

// pooled holds a claimed rate against all prints of the review that the claim is about, by the interval over prints.
func (b book) pooled(c bench.LedgerClaim, failed func(outcome.Counts) int64) (state, says string, err error) {
	var order []string
	counts := map[string]evidence.PrintCount{}
	for _, of := range b.contests {
		for _, s := range of.SetUps {
			if s.ReferenceID != "" || c.MachineID != nil && *c.MachineID != s.MachineID || c.ResinID != nil && *c.ResinID != s.ResinID {
				continue
			}
			sheets, err := b.reader.Sheets(s.RunIDs...)
			if err != nil {
				return "", "", err
			}
			for _, sheet := range sheets {
				n := bench.CountsOf(bench.TallyOf(side.Narrow(sheet, of.PieceID).Specimens))
				if n.Judged() == 0 {
					continue
				}
				print, known := counts[sheet.Run.ID]
				if !known {
					order = append(order, sheet.Run.ID)
				}
				counts[sheet.Run.ID] = evidence.PrintCount{Failed: print.Failed + failed(n), Judged: print.Judged + n.Judged()}
			}
		}
	}
	if len(order) == 0 {
		return claims.Untested, "no copy of it is judged yet", nil
	}
	in := evidence.PrintsInput{}
	for _, id := range order {
		in.A = append(in.A, counts[id])
	}
	all, err := evidence.Prints(in)
	if err != nil {
		return "", "", err
	}
	state = claims.Held(c.Bound, *c.Value/100, &all.A.CI)
	return state, fmt.Sprintf("together %d of %s over %s: %s (%s)", all.A.Failed, say.Counted(all.A.Specimens, "copy", "copies"), say.Counted(int64(all.A.Prints), "print"), say.Percent(all.A.Rate),
		say.Interval(100*all.A.CI[0], 100*all.A.CI[1], "%")), nil
}
