package printing

import (
	"fmt"
	"math"

	"ojime/internal/bench"
	"ojime/internal/core/mesh"
	"ojime/internal/core/quantity"
	"ojime/internal/store"
	"ojime/internal/work/planning"
	"ojime/internal/work/task"
)

// PreflightItem is one thing to look at before a print: what the record knows of
// it, why it matters and what it would spoil. State is fine, look (to be looked
// at), act (something is to be done first) or unknown. Answer is ticked, skipped
// or empty.
type PreflightItem struct {
	Item   string `json:"item"`
	Title  string `json:"title"`
	Fact   string `json:"fact"`
	Why    string `json:"why"`
	State  string `json:"state" enum:"fine,look,act,unknown"`
	Answer string `json:"answer" enum:",ticked,skipped"`
	AtMS   int64  `json:"at_ms"`
}

// Quirk is a line of a machine's quirk card.
type Quirk struct {
	Title string `json:"title"`
	Text  string `json:"text"`
}

func quirksOf(m bench.Machine) []Quirk {
	out := []Quirk{}
	for _, q := range []Quirk{
		{"Where files must lie", m.QuirkFiles}, {"Between two jobs", m.QuirkRestart}, {"Height it really prints", m.QuirkHeight},
		{"Settings that can be seen or changed", m.QuirkSettings}, {"Films that stay on", m.QuirkFilms},
	} {
		if q.Text != "" {
			out = append(out, q)
		}
	}
	return out
}

// Limits from which an item asks to be looked at.
const (
	oldLevelDays   = 30
	oldBottleDays  = 365
	nearlyWorn     = 0.8
	settledDays    = 7
	fewSpareML     = 20
	coldestUsualC  = 20
	warmestUsualC  = 28
	percentOfShare = 100
	recentRuns     = 30
)

// preflight makes the list from the record, with the answers so far.
func (w *Tasks) preflight(t *store.Tx, r bench.Run, m bench.Machine, plate bench.Plate, e planning.Estimate, layers []mesh.Layer, layerUM float64) ([]PreflightItem, error) {
	before, err := t.RunsBefore(r, recentRuns)
	if err != nil {
		return nil, err
	}
	f := preflightFacts{t: t, run: r, machine: m, plate: plate, estimate: e, before: before}
	for _, l := range layers {
		f.liquidML += l.AreaMM2 * layerUM / 1e6 * plate.LiquidRatio
	}
	items := []PreflightItem{f.vat()}
	sure := func(item func() PreflightItem) func() (PreflightItem, error) {
		return func() (PreflightItem, error) { return item(), nil }
	}
	for _, item := range []func() (PreflightItem, error){
		f.bottle, f.clean, f.fit, sure(f.film), sure(f.level), f.light, f.filter, sure(f.temperature), sure(f.clear), sure(f.caution),
	} {
		i, err := item()
		if err != nil {
			return nil, err
		}
		items = append(items, i)
	}
	return answered(t, r.ID, items)
}

func answered(t *store.Tx, runID string, items []PreflightItem) ([]PreflightItem, error) {
	answers, err := t.PreflightOfRun(runID)
	if err != nil {
		return nil, err
	}
	for _, a := range answers {
		for i := range items {
			if items[i].Item == a.Item {
				items[i].Answer, items[i].AtMS = a.State, a.AtMS
			}
		}
	}
	return items, nil
}

// flight is what the items are made from.
type preflightFacts struct {
	t        *store.Tx
	run      bench.Run
	machine  bench.Machine
	plate    bench.Plate
	estimate planning.Estimate
	before   []bench.Run // the machine's last runs before this one, the newest first
	liquidML float64
}

// lastKnot is when a knot of a kind was last tied before the run.
func (f preflightFacts) lastKnot(kind string) (atMS int64, known bool, err error) {
	return planning.LastKnot(f.t, f.machine.ID, kind, f.run.StartedMS)
}

func (f preflightFacts) vat() PreflightItem {
	out := PreflightItem{Item: "vat", Title: "Resin in the vat", State: "unknown", Why: "A vat that runs dry leaves half a plate, and debris that can crack the panel."}
	if f.machine.VatMaxML == nil {
		out.Fact = fmt.Sprintf("The plate takes %.0f ml; how much the vat holds is not on record.", f.liquidML+f.plate.DripML)
		return out
	}
	fill := math.Min(quantity.Or(f.run.VatFillML, quantity.Or(f.plate.VatFillML, *f.machine.VatMaxML)), *f.machine.VatMaxML)
	spare := fill - quantity.Or(f.machine.VatDeadML, 0) - f.liquidML
	out.State, out.Fact = "fine", fmt.Sprintf("The plate takes %.0f ml; with %.0f ml in the vat, %.0f ml stay to spare.", f.liquidML, fill, math.Max(0, spare))
	switch {
	case spare < 0:
		out.State, out.Fact = "act", fmt.Sprintf("The plate takes %.0f ml; %.0f ml in the vat fall short by %.0f ml. Fill up now, or top up in time.", f.liquidML, fill, -spare)
	case spare < fewSpareML:
		out.State = "look"
	}
	return out
}

func (f preflightFacts) bottle() (PreflightItem, error) {
	out := PreflightItem{Item: "bottle", Title: "Bottle: shake it", State: "look", Fact: "No bottle is chosen, so its age is not known.", Why: "Settled pigment and aged resin change exposure, colour and strength."}
	if f.run.BottleID == nil {
		out.State = "unknown"
		return out, nil
	}
	b, err := f.t.Bottle(*f.run.BottleID)
	if err != nil {
		return out, err
	}
	out.Fact = fmt.Sprintf("%s %s: when it was opened is not on record.", b.Code, b.Lot)
	if age := task.Days(b.OpenedOn, f.run.StartedMS); age != nil {
		out.Fact = fmt.Sprintf("%s %s was opened %.0f days ago.", b.Code, b.Lot, *age)
		if *age > oldBottleDays {
			out.State = "act"
		}
	}
	if past := task.Days(b.ExpiresOn, f.run.StartedMS); past != nil && *past > 0 {
		out.State, out.Fact = "act", fmt.Sprintf("%s %s expired %.0f days ago.", b.Code, b.Lot, *past)
	}
	last := int64(0)
	for _, r := range f.before {
		if r.ResinID == f.run.ResinID {
			last = r.StartedMS
			break
		}
	}
	if last > 0 && float64(f.run.StartedMS-last)/task.DayMS > settledDays {
		out.Fact += fmt.Sprintf(" This machine last used this resin %.0f days ago: stir the vat too.", float64(f.run.StartedMS-last)/task.DayMS)
	}
	return out, nil
}

// clean asks after debris when the last print on the machine lost something.
func (f preflightFacts) clean() (PreflightItem, error) {
	out := PreflightItem{Item: "debris", Title: "Vat free of debris", State: "fine", Fact: "No print before this one is on record.", Why: "Cured scraps crack panels and tear films, and cost the next plate."}
	if len(f.before) == 0 {
		return out, nil
	}
	last := f.before[0]
	specimens, err := f.t.SpecimensOfRun(last.ID)
	if err != nil {
		return out, err
	}
	lost := 0
	for _, s := range specimens {
		if s.Outcome == "lost" {
			lost++
		}
	}
	cleaned, known, err := f.lastKnot("vat_clean")
	if err != nil {
		return out, err
	}
	switch {
	case lost == 0:
		out.Fact = fmt.Sprintf("The last print, %s, lost nothing.", last.Code)
	case known && cleaned >= last.StartedMS:
		out.Fact = fmt.Sprintf("%s lost %d of %d; the vat was cleaned since.", last.Code, lost, len(specimens))
	default:
		out.State, out.Fact = "act", fmt.Sprintf("%s lost %d of %d, and no cleaning of the vat is on record since.", last.Code, lost, len(specimens))
	}
	return out, nil
}

// fit says whether everything lies well on the plate.
func (f preflightFacts) fit() (PreflightItem, error) {
	out := PreflightItem{Item: "fit", Title: "All of it on the plate", State: "fine", Fact: "Printed without a plan of the plate.", Why: "What reaches over the edge or the height is cut off without a word."}
	if f.run.PlateID == nil {
		out.State = "look"
		return out, nil
	}
	sheet := planning.PlateSheet{Plate: f.plate, Machine: f.machine}
	placements, err := f.t.PlacementsOfPlate(f.plate.ID)
	if err != nil {
		return out, err
	}
	if err := sheet.Arrange(f.t, placements); err != nil {
		return out, err
	}
	out.Fact = fmt.Sprintf("%s: %d copies, nothing off the plate or too near.", f.plate.Code, len(placements))
	if n := len(sheet.Troubles); n > 0 {
		out.State, out.Fact = "act", fmt.Sprintf("%s: copy %d %s (%d troubles).", f.plate.Code, sheet.Troubles[0].Item+1, sheet.Troubles[0].Message, n)
	}
	return out, nil
}

func (f preflightFacts) film() PreflightItem {
	out := PreflightItem{Item: "film", Title: "Film", State: "unknown", Fact: "How many layers the film has done is not known.", Why: "A clouded or slack film blurs detail and tears supports."}
	if f.run.FilmLayers == nil {
		return out
	}
	out.State, out.Fact = "fine", fmt.Sprintf("%.0f layers on it.", *f.run.FilmLayers)
	if life := f.machine.FilmLifeLayers; life != nil {
		share := *f.run.FilmLayers / *life
		out.Fact = fmt.Sprintf("%.0f layers on it, %.0f %% of its stated life.", *f.run.FilmLayers, percentOfShare*share)
		if share > nearlyWorn {
			out.State = "look"
		}
		if share > 1 {
			out.State = "act"
		}
	}
	if quantity.Or(f.run.FilmClouded, false) {
		out.State, out.Fact = "act", out.Fact+" It was noted as clouded."
	}
	return out
}

func (f preflightFacts) level() PreflightItem {
	out := PreflightItem{Item: "level", Title: "Levelled", State: "unknown", Fact: "When it was levelled is not known.", Why: "An uneven first layer lets one side go, and makes sizes differ across the plate."}
	if d := f.run.DaysSinceLevel; d != nil {
		out.State, out.Fact = "fine", fmt.Sprintf("%.0f days ago.", *d)
		if *d > oldLevelDays {
			out.State = "look"
		}
	}
	if quantity.Or(f.run.MovedSinceLevel, false) {
		out.State, out.Fact = "act", out.Fact+" The machine was moved since."
	}
	return out
}

func (f preflightFacts) light() (PreflightItem, error) {
	out := PreflightItem{Item: "light", Title: "Panel or light", State: "unknown", Fact: "No stated life of the light is on record.", Why: "A worn panel or lamp gives less light, and old exposures no longer hold."}
	if f.machine.LightLifeH == nil {
		return out, nil
	}
	used, hidden, from, err := planning.SinceKnot(f.t, f.machine.ID, "panel", "light_h", f.run.StartedMS)
	if err != nil {
		return out, err
	}
	if hidden > 0 {
		out.Fact = fmt.Sprintf("%d runs hide how long they were lit, so its hours are not known.", hidden)
		return out, nil
	}
	share := used / *f.machine.LightLifeH
	out.State, out.Fact = "fine", fmt.Sprintf("%.1f h lit, %.0f %% of its stated life (%s).", used, percentOfShare*share, from)
	if share > nearlyWorn {
		out.State = "look"
	}
	return out, nil
}

func (f preflightFacts) filter() (PreflightItem, error) {
	out := PreflightItem{Item: "filter", Title: "Filter and air", State: "look", Fact: "No change of a filter is on record.", Why: "Vapours sensitise; a spent filter only moves them about."}
	at, known, err := f.lastKnot("filter")
	if known {
		out.State, out.Fact = "fine", fmt.Sprintf("Changed %.0f days ago.", float64(f.run.StartedMS-at)/task.DayMS)
	}
	return out, err
}

func (f preflightFacts) temperature() PreflightItem {
	out := PreflightItem{Item: "temperature", Title: "Resin temperature", State: "look", Fact: "Measure it; resins like about 20 to 28 °C.", Why: "Cold resin is thick: it peels harder, cures less and tears supports."}
	if c := f.run.ResinTempC; c != nil {
		out.State, out.Fact = "fine", fmt.Sprintf("%.1f °C.", *c)
		if *c < coldestUsualC || *c > warmestUsualC {
			out.State = "act"
		}
		return out
	}
	for _, r := range f.before {
		if c := r.ResinTempC; c != nil {
			out.Fact += fmt.Sprintf(" At %s it had %.1f °C.", r.Code, *c)
			break
		}
	}
	return out
}

func (f preflightFacts) clear() PreflightItem {
	return PreflightItem{Item: "clear", Title: "Plate clear and tight", State: "look", Fact: "Look: the record cannot know.", Why: "What is left on the plate is pressed into the film."}
}

func (f preflightFacts) caution() PreflightItem {
	return PreflightItem{Item: "caution", Title: "Gloves, eyes, air", State: "look",
		Fact: "Gloves and eye protection before pouring; ventilation; solvent away from flame. The resin's safety data sheet, local rules and the machine's manual decide.",
		Why:  "Uncured resin sensitises skin; 365 to 405 nm light and lasers hurt eyes."}
}
