package printing

import (
	"strings"

	"ojime/internal/bench"
	"ojime/internal/core/machine"
	"ojime/internal/core/mesh"
	"ojime/internal/core/preflight"
	"ojime/internal/core/quantity"
	"ojime/internal/store"
	"ojime/internal/work/kit"
	"ojime/internal/work/planning"
)

// PreflightItem is one thing to look at before a print: what the record knows of
// it, why it matters and what it would spoil. State is fine, look (to be looked
// at), act (something is to be done first) or unknown. Answer is ticked, skipped
// (with its reason) or empty; Must says that it is wanted before the start.
type PreflightItem struct {
	Item   string `json:"item"`
	Title  string `json:"title"`
	Fact   string `json:"fact"`
	Why    string `json:"why"`
	State  string `json:"state" enum:"fine,look,act,unknown"`
	Must   bool   `json:"must"`
	Answer string `json:"answer" enum:",ticked,skipped"`
	Reason string `json:"reason"`
	AtMS   int64  `json:"at_ms"`
}

// Quirk is a line of a machine's quirk card.
type Quirk struct {
	Title string `json:"title"`
	Text  string `json:"text"`
}

// QuirksOf are the lines of a machine's quirk card.
func QuirksOf(m bench.Machine) []Quirk {
	out := []Quirk{}
	for _, q := range []Quirk{
		{"Where files must lie", m.QuirkFiles}, {"Between two jobs", m.QuirkRestart}, {"Height it really prints", m.QuirkHeight},
		{"Settings that can be seen or changed", m.QuirkSettings}, {"Films that stay on", m.QuirkFilms},
	} {
		if q.Text != "" {
			out = append(out, q)
		}
	}
	for _, q := range m.QuirkFaults {
		text := q.Text
		if q.Workaround != "" {
			text = strings.TrimRight(text, ".") + ". Against it: " + q.Workaround
		}
		out = append(out, Quirk{"Known for: " + q.Symptom, text})
	}
	return out
}

// recentRuns is how far back the last temperature and the last use of a resin are
// looked for.
const recentRuns = 30

// preflight judges what the record knows before a print, with the answers so far.
func (w *Tasks) preflight(t *store.Tx, r bench.Run, m bench.Machine, plate bench.Plate, layers []mesh.Layer, layerUM float64) ([]PreflightItem, error) {
	facts, err := PreflightFacts(t, r, m, plate)
	if err != nil {
		return nil, err
	}
	for _, l := range layers {
		facts.LiquidML += l.AreaMM2 * layerUM / 1e6 * plate.LiquidRatio
	}
	items := []PreflightItem{}
	for _, i := range preflight.Items(facts) {
		items = append(items, PreflightItem{Item: i.Item, Title: i.Title, Fact: i.Fact, Why: i.Why, State: i.State, Must: i.Must})
	}
	answers, err := t.PreflightOfRun(r.ID)
	for _, a := range answers {
		for i := range items {
			if items[i].Item == a.Item {
				items[i].Answer, items[i].AtMS, items[i].Reason = a.State, a.AtMS, a.Reason
			}
		}
	}
	return items, err
}

// PreflightFacts reads what the judgements need.
func PreflightFacts(t *store.Tx, r bench.Run, m bench.Machine, plate bench.Plate) (f preflight.Facts, err error) {
	history, err := kit.HistoryOf(t, m.ID)
	if err != nil {
		return f, err
	}
	now := r.StartedMS
	condition, holds := history.At(now), history.VatAt(now)
	f = preflight.Facts{DripML: plate.DripML, DeadML: quantity.Or(m.VatDeadML, 0), Film: condition.Film, FilmLifeLayers: m.FilmLifeLayers,
		FilmClouded: quantity.Or(r.FilmClouded, false), Level: condition.Level, LevelOff: quantity.Or(r.LevelOff, false), Light: condition.Light, LightLifeH: m.LightLifeH,
		ResinTempC: r.ResinTempC, NoThermometer: m.NeverKnown("resin_temp_c"), Vat: preflight.Vat{Same: holds.ResinID == r.ResinID, Cleaned: holds.Cleaned}}
	label, err := t.Resin(r.ResinID)
	if err != nil {
		return f, err
	}
	f.Window = label.Window()
	unit, err := kit.UnitOf(t, m.ID)
	if err != nil {
		return f, err
	}
	if unit != nil {
		f.Unpeeled = unit.Unpeeled()
	}
	if m.VatMaxML != nil {
		f.FillML = quantity.Ptr(machine.VatFill(r.VatFillML, plate.VatFillML, *m.VatMaxML))
	}
	if at := history.Last("filter", now); at != nil {
		f.FilterDays = quantity.Ptr(quantity.WholeDays(now - *at))
	}
	if holds.ResinID != "" {
		in, err := t.Resin(holds.ResinID)
		if err != nil {
			return f, err
		}
		f.Vat.Resin = in.Name
	}
	if r.BottleID != nil {
		b, err := t.Bottle(*r.BottleID)
		if err != nil {
			return f, err
		}
		f.Bottle = &preflight.Bottle{Name: strings.TrimSpace(b.Code + " " + b.Lot), Bottle: machine.BottleAt(b.OpenedOn, b.ExpiresOn, now)}
	}
	if err := before(t, r, &f); err != nil {
		return f, err
	}
	if r.PlateID != nil {
		f.Plan, err = planOf(t, m, plate)
	}
	return f, err
}

// before reads what the prints before this one on the machine tell.
func before(t *store.Tx, r bench.Run, f *preflight.Facts) error {
	runs, err := t.RunsBefore(r, recentRuns)
	if err != nil || len(runs) == 0 {
		return err
	}
	tallies, err := t.TalliesOfRun(runs[0].ID)
	if err != nil {
		return err
	}
	counts := bench.CountsOf(tallies)
	f.Before = &preflight.LastPrint{Code: runs[0].Code, Copies: counts.Specimens, Lost: counts.Lost, Unjudged: counts.Pending}
	for _, b := range runs {
		if b.ResinTempC != nil && f.LastTempC == nil {
			f.LastTempC = &preflight.Temperature{Code: b.Code, C: *b.ResinTempC}
		}
		if b.ResinID == r.ResinID && f.ResinDays == nil {
			f.ResinDays = quantity.Ptr(quantity.WholeDays(r.StartedMS - b.StartedMS))
		}
	}
	return nil
}

func planOf(t *store.Tx, m bench.Machine, plate bench.Plate) (*preflight.Plan, error) {
	placements, err := t.PlacementsOfPlate(plate.ID)
	if err != nil {
		return nil, err
	}
	troubles, err := planning.TroublesOf(t, m, plate, placements)
	return &preflight.Plan{Code: plate.Code, Copies: int64(len(placements)), Troubles: troubles}, err
}
