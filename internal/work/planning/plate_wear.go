package planning

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
	"ojime/internal/work/kit"
	"ojime/internal/work/upkeep"
)

// price is the cost of the plate and of a good piece before printing, by the
// machine's own record of good and lost.
func (s *PlateSheet) price(t *store.Tx, e Estimate, settings bench.Settings, copies int64) error {
	if s.Time.BestS == nil || s.Resins.Budget == nil {
		s.CostReason = "Time and resin have to be known first."
		return nil
	}
	card, err := kit.CardOfResin(s.Resin)
	if err != nil {
		s.CostReason = fmt.Sprintf("The price of %s cannot be worked out: %v.", s.Resin.Name, err)
		return nil
	}
	in := cost.PieceInput{
		ResinML: s.Resins.Budget.NeededML, ResinPerLitre: *card.Price.PerLitre, WastePct: &settings.WastePct, Consumables: kit.Consumables(s.Machine),
		Print:  cost.Print{TotalS: *s.Time.BestS, LightOnS: quantity.Or(e.LightOnS, 0), Layers: e.Layers},
		PowerW: s.Machine.PowerW, EnergyPerKWh: settings.EnergyPerKWh, AttendedMin: settings.TurnaroundMin, LabourPerH: settings.LabourPerH, Copies: copies,
	}
	if e.LightOnS == nil {
		in.Consumables = slices.DeleteFunc(in.Consumables, func(c cost.Consumable) bool { return c.Unit == "light_s" })
	}
	if in.Success.Good, in.Success.Tried, err = t.GoodOfMachine(s.Machine.ID); err != nil {
		return err
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
func (s *PlateSheet) wears(t *store.Tx, e Estimate, settings bench.Settings, nowMS int64) error {
	if s.Time.BestS == nil {
		s.WearReason = "Without a time, wear cannot be computed. " + e.Reason
		return nil
	}
	m := s.Machine
	add := func(name, unit, knot string, life, price *float64) error {
		if life == nil {
			return nil
		}
		used, _, from, err := SinceKnot(t, m.ID, knot, unit, nowMS)
		if err != nil {
			return err
		}
		// What wears by layers is asked without light where that is hidden; the
		// share that is lit is then not said.
		lit := quantity.Or(e.LightOnS, *s.Time.BestS)
		res, err := wear.Light(wear.LightInput{LightOnS: lit, TotalS: math.Max(*s.Time.BestS, lit), Layers: e.Layers, Life: *life, Unit: unit,
			Used: &used, HoursPerWeek: &settings.RunHPerWeek, Price: price})
		s.Wear = append(s.Wear, Wear{Name: name, Unit: unit, Life: *life, Used: used, From: from, LightKnown: e.LightOnS != nil, Result: res})
		return err
	}
	light := upkeep.LightName[m.LightEngine]
	if e.LightOnS == nil {
		s.WearReason = "The seconds of light are hidden with the exposure, so the wear of the " + light + " cannot be computed."
	} else if err := add(strings.ToUpper(light[:1])+light[1:], "light_h", "panel", m.LightLifeH, m.LightPrice); err != nil {
		return err
	}
	if err := add("Film", "layers", "film", m.FilmLifeLayers, m.FilmPrice); err != nil {
		return err
	}
	if len(s.Wear) == 0 && s.WearReason == "" {
		s.WearReason = "No stated life of a light source or film is on record for " + m.Name + "; enter it in the kit."
	}
	return nil
}

// SinceKnot adds up the layers or hours of light that finished runs used from the
// last knot of a kind to an instant, and counts those that do not tell.
func SinceKnot(t *store.Tx, machineID, kind, unit string, untilMS int64) (used float64, hidden int64, from string, err error) {
	since, known, err := LastKnot(t, machineID, kind, untilMS)
	if err != nil {
		return 0, 0, "", err
	}
	u, err := t.UsedUntil(machineID, since, untilMS)
	if err != nil {
		return 0, 0, "", err
	}
	from = fmt.Sprintf("%d runs since it was changed", u.Runs)
	if !known {
		from = fmt.Sprintf("all %d runs on record; none before that is known", u.Runs)
	}
	if unit == "layers" {
		return float64(u.Layers), 0, from, nil
	}
	if hidden = u.Runs - u.LightKnown; hidden > 0 {
		from += fmt.Sprintf("; %d of them hide it and are not in the figure", hidden)
	}
	return u.LightS / 3600, hidden, from, nil
}

// LastKnot is when a knot of a kind was last tied until an instant, 0 where none is
// on record.
func LastKnot(t *store.Tx, machineID, kind string, untilMS int64) (atMS int64, known bool, err error) {
	events, err := t.EventsOfMachine(machineID)
	for _, e := range events {
		if e.Kind == kind && e.AtMS <= untilMS {
			atMS, known = max(atMS, e.AtMS), true
		}
	}
	return atMS, known, err
}
