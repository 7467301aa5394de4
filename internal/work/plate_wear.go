package work

import (
	"fmt"
	"math"
	"slices"
	"strings"

	"ojime/internal/bench"
	"ojime/internal/core/cost"
	"ojime/internal/core/quantity"
	"ojime/internal/core/wear"
	"ojime/internal/store"
)

// price is the cost of the plate and of a good piece before printing, by the
// machine's own record of good and lost.
func (s *PlateSheet) price(t *store.Tx, e Estimate, runs []bench.Run, settings bench.Settings, copies int64) error {
	if s.Time.BestS == nil || s.Resins.Budget == nil {
		s.CostReason = "Time and resin have to be known first."
		return nil
	}
	card, err := resinCard(s.Resin)
	if err != nil {
		return err
	}
	in := cost.PieceInput{
		ResinML: s.Resins.Budget.NeededML, ResinPerLitre: *card.Price.PerLitre, WastePct: &settings.WastePct, Consumables: consumables(s.Machine),
		Print:  cost.Print{TotalS: *s.Time.BestS, LightOnS: quantity.Or(e.LightOnS, 0), Layers: e.Layers},
		PowerW: s.Machine.PowerW, EnergyPerKWh: settings.EnergyPerKWh, AttendedMin: settings.TurnaroundMin, LabourPerH: settings.LabourPerH, Copies: copies,
	}
	if e.LightOnS == nil {
		in.Consumables = slices.DeleteFunc(in.Consumables, func(c cost.Consumable) bool { return c.Unit == "light_s" })
	}
	for _, r := range runs {
		specimens, err := t.SpecimensOfRun(r.ID)
		if err != nil {
			return err
		}
		for _, p := range specimens {
			if p.Judged() {
				in.Success.Tried++
			}
			if p.Good() {
				in.Success.Good++
			}
		}
	}
	s.CostBasis = fmt.Sprintf("%d of %d judged specimens of %s were whole", in.Success.Good, in.Success.Tried, s.Machine.Name)
	if e.LightOnS == nil {
		s.CostBasis += "; wear of the light source is hidden and not in it"
	}
	out, err := cost.Piece(in)
	s.Cost = &out
	return err
}

// Wear is one thing that this print uses up.
type Wear struct {
	Name string  `json:"name"`
	Unit string  `json:"unit" enum:"light_h,layers"`
	Life float64 `json:"life"`
	Used float64 `json:"used"`
	From string  `json:"from"`
	// LightKnown says that the share that is lit means something.
	LightKnown bool             `json:"light_known"`
	Result     wear.LightResult `json:"result"`
}

// wears weighs the print against panel, projector or laser and film.
func (s *PlateSheet) wears(t *store.Tx, e Estimate, runs []bench.Run, settings bench.Settings) error {
	if s.Time.BestS == nil {
		s.WearReason = "Without a time, wear cannot be computed. " + e.Reason
		return nil
	}
	events, err := t.MachineEvents()
	if err != nil {
		return err
	}
	m := s.Machine
	add := func(name, unit, knot string, life, price *float64, of func(bench.Run) *float64) error {
		if life == nil {
			return nil
		}
		used, _, from := sinceKnot(m.ID, knot, events, runs, of)
		// What wears by layers is asked without light where that is hidden; the
		// share that is lit is then not said.
		lit := quantity.Or(e.LightOnS, *s.Time.BestS)
		res, err := wear.Light(wear.LightInput{LightOnS: lit, TotalS: math.Max(*s.Time.BestS, lit), Layers: e.Layers, Life: *life, Unit: unit,
			Used: &used, HoursPerWeek: &settings.RunHPerWeek, Price: price})
		s.Wear = append(s.Wear, Wear{Name: name, Unit: unit, Life: *life, Used: used, From: from, LightKnown: e.LightOnS != nil, Result: res})
		return err
	}
	light := map[string]string{"masked_lcd": "Panel", "projector": "Projector", "laser": "Laser"}[m.LightEngine]
	if e.LightOnS == nil {
		s.WearReason = "The seconds of light are hidden with the exposure, so the wear of the " + strings.ToLower(light) + " cannot be computed."
	} else if err := add(light, "light_h", "panel", m.LightLifeH, m.LightPrice, hoursLit); err != nil {
		return err
	}
	if err := add("Film", "layers", "film", m.FilmLifeLayers, m.FilmPrice, func(r bench.Run) *float64 { return quantity.Ptr(float64(r.Layers)) }); err != nil {
		return err
	}
	if len(s.Wear) == 0 && s.WearReason == "" {
		s.WearReason = "No stated life of a light source or film is on record for " + m.Name + "; enter it in the kit."
	}
	return nil
}

// sinceKnot adds up what finished runs used since the last knot of a kind, and
// counts those that do not tell.
func sinceKnot(machineID, kind string, events []bench.MachineEvent, runs []bench.Run, of func(bench.Run) *float64) (used float64, hidden int, from string) {
	since := int64(math.MinInt64)
	for _, e := range events {
		if e.MachineID == machineID && e.Kind == kind {
			since = max(since, e.AtMS)
		}
	}
	n := 0
	for _, r := range runs {
		if r.StartedMS < since || r.EndedMS == nil {
			continue
		}
		n++
		if v := of(r); v != nil {
			used += *v
		} else {
			hidden++
		}
	}
	from = fmt.Sprintf("%d runs since it was changed", n)
	if since == math.MinInt64 {
		from = fmt.Sprintf("all %d runs on record; none before that is known", n)
	}
	if hidden > 0 {
		from += fmt.Sprintf("; %d of them hide it and are not in the figure", hidden)
	}
	return used, hidden, from
}

// hoursLit is how long a run's light was on, nil where its settings hide it.
func hoursLit(r bench.Run) *float64 {
	if r.LightOnS == nil {
		return nil
	}
	return quantity.Ptr(*r.LightOnS / 3600)
}
