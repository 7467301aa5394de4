package planning

import (
	"fmt"
	"math"
	"slices"
	"strings"

	"ojime/internal/bench"
	"ojime/internal/core/cost"
	"ojime/internal/core/machine"
	"ojime/internal/core/quantity"
	"ojime/internal/core/wear"
	"ojime/internal/say"
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
	told, err := t.ToldOfMachine(s.Machine.ID)
	if err != nil {
		return err
	}
	in.Success.Good, in.Success.Tried = told.Judged-told.Spoilt, told.Judged
	s.CostBasis = fmt.Sprintf("%d of %s of %s came out of the print good", in.Success.Good, say.Counted(told.Judged, "judged specimen"), s.Machine.Name)
	if told.Accidents > 0 {
		s.CostBasis += fmt.Sprintf("; %s afterwards left out", say.Counted(told.Accidents, "accident"))
	}
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
	history, err := kit.HistoryOf(t, m.ID)
	if err != nil {
		return err
	}
	add := func(name, unit, words string, seen machine.Wear, life, price *float64) error {
		if life == nil {
			return nil
		}
		// What wears by layers is asked without light where that is hidden; the
		// share that is lit is then not said.
		lit := quantity.Or(e.LightOnS, *s.Time.BestS)
		res, err := wear.Light(wear.LightInput{LightOnS: lit, TotalS: math.Max(*s.Time.BestS, lit), Layers: e.Layers, Life: *life, Unit: unit,
			Used: &seen.AtLeast, HoursPerWeek: &settings.RunHPerWeek, Price: price})
		s.Wear = append(s.Wear, Wear{Name: name, Unit: unit, Life: *life, Used: seen.AtLeast, From: upkeep.WearWords(seen, words, nil), LightKnown: e.LightOnS != nil, Result: res})
		return err
	}
	light := upkeep.LightName[m.LightEngine]
	if e.LightOnS == nil {
		s.WearReason = "The seconds of light are hidden with the exposure, so the wear of the " + light + " cannot be computed."
	} else if err := add(strings.ToUpper(light[:1])+light[1:], "light_h", "h lit", history.LightWear(nowMS), m.LightLifeH, m.LightPrice); err != nil {
		return err
	}
	if err := add("Film", "layers", "layers", history.FilmWear(nowMS), m.FilmLifeLayers, m.FilmPrice); err != nil {
		return err
	}
	if len(s.Wear) == 0 && s.WearReason == "" {
		s.WearReason = "No stated life of a light source or film is on record for " + m.Name + "; enter it in the kit."
	}
	return nil
}
