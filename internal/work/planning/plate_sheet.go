package planning

import (
	"context"
	"fmt"
	"math"

	"ojime/internal/bench"
	"ojime/internal/core/cost"
	"ojime/internal/core/machine"
	"ojime/internal/core/mesh"
	"ojime/internal/core/plan"
	"ojime/internal/core/quantity"
	"ojime/internal/core/resin"
	"ojime/internal/core/timing"
	"ojime/internal/store"
	"ojime/internal/work/kit"
	"ojime/internal/work/upkeep"
)

// PlateSheet is a plate with everything worked out before anything is poured.
// What cannot be known is nil, with the reason beside it.
type PlateSheet struct {
	Plate    bench.Plate    `json:"plate"`
	Machine  bench.Machine  `json:"machine"`
	Profile  *bench.Profile `json:"profile"`
	Settings string         `json:"settings"`
	Resin    bench.Resin    `json:"resin"`
	Series   *bench.Series  `json:"series"`
	Placed   []PlacedCopy   `json:"placed"`
	Troubles []plan.Trouble `json:"troubles"`
	// Usable is what may be used of the machine's plate.
	Usable     bench.Usable           `json:"usable"`
	Fits       []Fits                 `json:"fits"`
	RunIDs     []string               `json:"run_ids"`
	Runs       []string               `json:"runs"`
	Time       *PlateTime             `json:"time"`
	Resins     *PlateResin            `json:"resin_budget"`
	Wear       []Wear                 `json:"wear"`
	WearReason string                 `json:"wear_reason"`
	Headline   *timing.HeadlineResult `json:"headline"`
	Week       *plan.WeekResult       `json:"week"`
	Cost       *cost.PieceResult      `json:"cost"`
	CostReason string                 `json:"cost_reason"`
	CostBasis  string                 `json:"cost_basis"`
	Cells      *CellPlan              `json:"cells"`
}

// PlateTime is our time, and both estimates put right by what the machine's
// own runs have shown. BestS is the one to plan with.
type PlateTime struct {
	Estimate     Estimate           `json:"estimate"`
	Ours         *timing.BiasResult `json:"ours"`
	OursN        int64              `json:"ours_n"`
	OursFrom     string             `json:"ours_from"`
	Software     *timing.BiasResult `json:"software"`
	SoftwareN    int64              `json:"software_n"`
	SoftwareFrom string             `json:"software_from"`
	BestS        *float64           `json:"best_s"`
	BestPI       *quantity.Interval `json:"best_pi"`
	BestFrom     string             `json:"best_from"`
}

// PlateResin is whether the vat and the bottle hold. BottleLeftML is nil where
// a run with that bottle did not note what it used.
type PlateResin struct {
	SolidML      float64             `json:"solid_ml"`
	FillML       float64             `json:"fill_ml"`
	Budget       *resin.BudgetResult `json:"budget"`
	Reason       string              `json:"reason"`
	BottleML     *float64            `json:"bottle_ml"`
	BottleLeftML *float64            `json:"bottle_left_ml"`
	BottleReason string              `json:"bottle_reason"`
}

// PlateSheet reads a plate and works everything out.
func (w *Tasks) PlateSheet(ctx context.Context, id string) (out PlateSheet, err error) {
	err = w.Store.Read(ctx, func(t *store.Tx) error {
		out, err = w.ReadPlate(t, id)
		return err
	})
	return out, err
}

// ReadPlate is PlateSheet within a transaction.
func (w *Tasks) ReadPlate(t *store.Tx, id string) (PlateSheet, error) {
	out := PlateSheet{Placed: []PlacedCopy{}, Troubles: []plan.Trouble{}, Fits: []Fits{}, RunIDs: []string{}, Runs: []string{}, Wear: []Wear{}}
	var err error
	if out.Plate, err = t.Plate(id); err != nil {
		return out, err
	}
	placements, err := t.PlacementsOfPlate(id)
	if err != nil {
		return out, err
	}
	if err := out.refer(t); err != nil {
		return out, err
	}
	if err := out.arrange(t, placements); err != nil || len(placements) == 0 {
		return out, err
	}
	loads, err := LoadsOf(t.Piece, placements)
	if err != nil {
		return out, err
	}
	return out, w.workOut(t, &out, placements, loads)
}

// refer reads what the plate points to.
func (s *PlateSheet) refer(t *store.Tx) (err error) {
	if s.Machine, err = t.Machine(s.Plate.MachineID); err != nil {
		return err
	}
	resinID := ""
	if s.Plate.SeriesID != nil {
		series, err := t.Series(*s.Plate.SeriesID)
		if err != nil {
			return err
		}
		s.Series, s.Settings, resinID = &series, "series "+series.Code, series.ResinID
	}
	if s.Plate.ProfileID != nil {
		profile, err := t.Profile(*s.Plate.ProfileID)
		if err != nil {
			return err
		}
		s.Profile, s.Settings, resinID = &profile, kit.SettingsName(profile), profile.ResinID
	}
	if s.Resin, err = t.Resin(resinID); err != nil {
		return err
	}
	runs, err := t.RunsOfPlate(s.Plate.ID)
	for _, r := range runs {
		s.RunIDs, s.Runs = append(s.RunIDs, r.ID), append(s.Runs, r.Code)
	}
	return err
}

// arrange draws what lies on the plate, says what is wrong with it, and how
// many of each piece would fit alone.
func (s *PlateSheet) arrange(t *store.Tx, placements []bench.Placement) error {
	items, err := itemsOf(t, placements)
	if err != nil {
		return err
	}
	places := make([]plan.Place, len(placements))
	for i, p := range placements {
		places[i] = plan.Place{XMM: p.XMM, YMM: p.YMM, TurnDeg: p.TurnDeg}
		piece, err := t.Piece(p.PieceID)
		if err != nil {
			return err
		}
		s.Placed = append(s.Placed, PlacedCopy{Placement: p, Piece: piece.Name, HeightMM: items[i].Footprint.HeightMM * items[i].Scale, Outline: items[i].Footprint.On(places[i], items[i].Scale)})
	}
	if s.Usable, err = kit.UsableOf(t, s.Machine); err != nil {
		return err
	}
	surface, err := PlateOf(t, s.Machine, s.Plate)
	if err != nil {
		return err
	}
	s.Troubles = plan.Review(surface, items, places, s.Plate.OverlapAllowed)
	loads, err := LoadsOf(t.Piece, placements)
	if err != nil {
		return err
	}
	for _, l := range loads {
		capacity, err := plan.Capacity(surface, plan.Item{Footprint: FootprintOf(l.Piece), Scale: l.Scale})
		if err != nil {
			return err
		}
		s.Fits = append(s.Fits, Fits{PieceID: l.Piece.ID, Piece: l.Piece.Name, ScalePct: 100 * l.Scale, Copies: l.Copies, Capacity: capacity})
	}
	return nil
}

// TroublesOf says in words what is wrong with how a plate is laid.
func TroublesOf(t *store.Tx, m bench.Machine, plate bench.Plate, placements []bench.Placement) ([]string, error) {
	sheet := PlateSheet{Plate: plate, Machine: m}
	if err := sheet.arrange(t, placements); err != nil {
		return nil, err
	}
	var out []string
	for _, x := range sheet.Troubles {
		out = append(out, fmt.Sprintf("copy %d %s", x.Item+1, x.Message))
	}
	return out, nil
}

// setting is what a plate is printed with: its profile, or that of its series with the
// exposure of the longest cell on it.
func (s *PlateSheet) setting(placements []bench.Placement) bench.Profile {
	if s.Profile != nil {
		return *s.Profile
	}
	longest := 0.0
	for _, p := range placements {
		longest = math.Max(longest, quantity.Or(p.ExposureS, 0))
	}
	p := SeriesSettings(s.Machine, *s.Series)
	if longest > 0 {
		p.ExposureS = &longest
	}
	return p
}

// SeriesSettings are what a series sets, with the machine's usual moves; the exposure is
// each cell's own.
func SeriesSettings(m bench.Machine, s bench.Series) bench.Profile {
	p := bench.Profile{MachineID: s.MachineID, ResinID: s.ResinID, LayerUM: s.LayerUM, BottomLayers: &s.BottomLayers, BottomExposureS: &s.BottomExposureS,
		TransitionLayers: &s.TransitionLayers, Basis: bench.BasisSeries, SeriesID: &s.ID, Name: "Cells of " + s.Code}
	m.Usual(&p)
	return p
}

func (w *Tasks) workOut(t *store.Tx, s *PlateSheet, placements []bench.Placement, loads []PlateLoad) error {
	p := s.setting(placements)
	e, layers, err := w.Estimate(t, s.Machine, p, loads)
	if err != nil {
		return err
	}
	past, err := PastOf(t, s.Machine.ID, p, JobKey(p.LayerUM, loads), w.NowMS())
	if err != nil {
		return err
	}
	settings, err := t.Settings()
	if err != nil {
		return err
	}
	if s.Time, err = TimeOfPlate(s.Plate, e, past); err != nil {
		return err
	}
	if err := s.budget(t, e, layers, loads, p.LayerUM); err != nil {
		return err
	}
	if e.TotalS != nil && s.Machine.ClaimedMMH != nil {
		h, err := timing.Headline(timing.HeadlineInput{LayerUM: p.LayerUM, ClaimedMMH: *s.Machine.ClaimedMMH, MeasuredLayerS: e.LayerS, ExposureS: p.ExposureS})
		if err != nil {
			return err
		}
		s.Headline = &h
	}
	if s.Time.BestS != nil {
		week, err := plan.Week(plan.WeekInput{PrintS: *s.Time.BestS, TurnaroundMin: settings.TurnaroundMin, FromH: settings.AttendedFromH, ToH: settings.AttendedToH,
			Days: settings.AttendedDays, Copies: int64(len(placements))})
		if err != nil {
			return err
		}
		s.Week = &week
	}
	if err := s.wears(t, e, settings, w.NowMS()); err != nil {
		return err
	}
	if err := s.price(t, e, settings, int64(len(placements))); err != nil {
		return err
	}
	if s.Series != nil {
		s.Cells, err = w.CellPlan(t, s.Machine, *s.Series, settings)
	}
	return err
}

// TimeFor is how long a plate takes that may not be on record yet.
func (w *Tasks) TimeFor(t *store.Tx, m bench.Machine, p bench.Profile, plate bench.Plate, loads []PlateLoad) (*PlateTime, error) {
	e, _, err := w.Estimate(t, m, p, loads)
	if err != nil {
		return nil, err
	}
	past, err := PastOf(t, m.ID, p, JobKey(p.LayerUM, loads), w.NowMS())
	if err != nil {
		return nil, err
	}
	return TimeOfPlate(plate, e, past)
}

// TimeOfPlate puts both estimates right by what prints of this machine took, the
// nearest ones first.
func TimeOfPlate(plate bench.Plate, e Estimate, past []timing.Past) (*PlateTime, error) {
	out := &PlateTime{Estimate: e, BestS: e.TotalS, BestPI: e.Interval, BestFrom: "model"}
	ours, software := []timing.Past{}, []timing.Past{}
	for _, p := range past {
		if p.OursS != nil && p.Model == e.Model {
			ours = append(ours, p)
		}
		if p.SoftwareS != nil && p.Software == plate.Software {
			software = append(software, p)
		}
	}
	var err error
	if plate.SoftwareEstimateS != nil {
		if out.Software, out.SoftwareN, out.SoftwareFrom, err = putRight(plate.SoftwareEstimateS, software, func(p timing.Past) float64 { return *p.SoftwareS }); err != nil {
			return nil, err
		}
	}
	// What was learned from the prints themselves needs no second correction.
	if e.TotalS != nil && e.Model != "learned" {
		if out.Ours, out.OursN, out.OursFrom, err = putRight(e.TotalS, ours, func(p timing.Past) float64 { return *p.OursS }); err != nil {
			return nil, err
		}
	}
	switch {
	case out.Ours != nil:
		out.BestS, out.BestPI, out.BestFrom = out.Ours.CorrectedS, out.Ours.CorrectedPI, "ours"
	case out.BestS == nil && out.Software != nil:
		out.BestS, out.BestPI, out.BestFrom = out.Software.CorrectedS, out.Software.CorrectedPI, "software"
	}
	return out, nil
}

func putRight(estimateS *float64, past []timing.Past, estimated func(timing.Past) float64) (*timing.BiasResult, int64, string, error) {
	chosen, from := timing.LearnFrom(past)
	if len(chosen) == 0 {
		return nil, 0, "", nil
	}
	in := timing.BiasInput{EstimateS: estimateS}
	for _, p := range chosen {
		in.Pairs = append(in.Pairs, timing.BiasPair{EstimateS: estimated(p), ActualS: p.ActualS})
	}
	b, err := timing.Bias(in)
	return &b, int64(len(chosen)), from, err
}

// budget asks whether vat and bottle hold.
func (s *PlateSheet) budget(t *store.Tx, e Estimate, layers []mesh.Layer, loads []PlateLoad, layerUM float64) error {
	out := &PlateResin{}
	s.Resins = out
	for _, l := range loads {
		out.SolidML += float64(l.Copies) * l.solidML()
	}
	m := s.Machine
	switch {
	case m.VatMaxML == nil:
		out.Reason = "How much the vat of " + m.Name + " holds is not on record; enter it in the kit."
	case e.EachLayerS == nil:
		out.Reason = "Without a time per layer it cannot be said when the vat runs dry. " + e.Reason
	default:
		out.FillML = machine.VatFill(nil, s.Plate.VatFillML, *m.VatMaxML)
		in := resin.BudgetInput{LiquidRatio: &s.Plate.LiquidRatio, DripML: &s.Plate.DripML,
			Vat: resin.Vat{FillML: out.FillML, DeadML: quantity.Or(m.VatDeadML, 0), MaxML: *m.VatMaxML}}
		for i, l := range layers {
			ml := l.AreaMM2 * layerUM / 1e6
			in.SolidML += ml
			in.Layers = append(in.Layers, resin.Layer{ML: ml, S: e.EachLayerS[i]})
		}
		b, err := resin.Budget(in)
		if err != nil {
			return fmt.Errorf("resin of %s: %w", s.Plate.Code, err)
		}
		out.Budget = &b
	}
	return out.stock(t, s)
}

// stock is what the bottle holds now and after the print.
func (r *PlateResin) stock(t *store.Tx, s *PlateSheet) error {
	if s.Plate.BottleID == nil {
		r.BottleReason = "No bottle is chosen."
		return nil
	}
	b, err := t.Bottle(*s.Plate.BottleID)
	if err != nil {
		return err
	}
	card, err := upkeep.CardOfBottle(t, b, s.Resin)
	if err != nil {
		return err
	}
	if card.LeftML == nil {
		r.BottleReason = card.Reason
		return nil
	}
	left := *card.LeftML
	r.BottleML = &left
	if r.Budget != nil {
		after := left - r.Budget.NeededML
		r.BottleLeftML = &after
		if after < 0 {
			r.BottleReason = fmt.Sprintf("The bottle lacks %.0f ml for this plate, unless the vat already holds it.", -after)
		}
	}
	return nil
}
