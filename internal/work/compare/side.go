package compare

import (
	"fmt"
	"math"
	"strings"

	"ojime/internal/bench"
	"ojime/internal/core/audit"
	"ojime/internal/core/machine"
	"ojime/internal/core/quantity"
	"ojime/internal/core/setup"
	"ojime/internal/say"
	"ojime/internal/store"
	"ojime/internal/work/kit"
	"ojime/internal/work/planning"
	"ojime/internal/work/printing"
	"ojime/internal/work/task"
)

// side is the prints of one side with what they refer to, as far as they concern the
// pieces compared. All are of one machine; resin and settings may vary, which the audit
// then says.
type side struct {
	machine  bench.Machine
	history  machine.History
	sheets   []printing.RunSheet
	prints   []setup.Print
	pieces   []bench.Piece
	bottles  []machine.Bottle
	measured printing.Measured
}

// loadSide reads the prints of a side; a piece narrows what is asked to its copies.
func loadSide(t *store.Tx, reader *printing.Reader, runIDs []string, pieceID string) (s side, err error) {
	sheets, err := reader.Sheets(runIDs...)
	if err != nil {
		return s, err
	}
	bottleOf := task.Memoise(t.Bottle)
	for _, sheet := range sheets {
		if s.machine.ID != "" && s.machine.ID != sheet.Machine.ID {
			return s, fmt.Errorf("a side holds runs of %s and %s; choose runs of one machine: %w", s.machine.Name, sheet.Machine.Name, bench.ErrConflict)
		}
		s.machine = sheet.Machine
		loads, err := planning.LoadsOfSpecimens(reader.Piece, sheet.Specimens)
		if err != nil {
			return s, err
		}
		narrow(&sheet, pieceID)
		if len(sheet.Specimens) == 0 {
			return s, fmt.Errorf("%s holds no copy of the piece compared; leave it out: %w", sheet.Run.Code, bench.ErrConflict)
		}
		if err := s.take(sheet, planning.ShareOf(loads, pieceID), bottleOf); err != nil {
			return s, err
		}
	}
	if s.history, err = reader.History(s.machine.ID); err != nil {
		return s, err
	}
	s.measured.Instruments, err = t.Instruments()
	return s, err
}

// narrow leaves of a sheet what concerns one piece.
func narrow(sheet *printing.RunSheet, pieceID string) {
	if pieceID == "" {
		return
	}
	keep := func(id string) bool { return id == pieceID }
	sheet.Specimens = only(sheet.Specimens, func(s bench.Specimen) bool { return keep(s.PieceID) })
	sheet.Pieces = only(sheet.Pieces, func(p bench.Piece) bool { return keep(p.ID) })
	sheet.Features = only(sheet.Features, func(f bench.Feature) bool { return keep(f.PieceID) })
}

func only[E any](list []E, keep func(E) bool) []E {
	var out []E
	for _, e := range list {
		if keep(e) {
			out = append(out, e)
		}
	}
	return out
}

// take adds a print, of which the pieces compared are a share, to the side.
func (s *side) take(sheet printing.RunSheet, share float64, bottleOf func(string) (bench.Bottle, error)) error {
	var bottle machine.Bottle
	if sheet.Run.BottleID != nil {
		b, err := bottleOf(*sheet.Run.BottleID)
		if err != nil {
			return err
		}
		bottle = machine.BottleAt(b.OpenedOn, b.ExpiresOn, sheet.Run.StartedMS)
	}
	s.sheets, s.bottles = append(s.sheets, sheet), append(s.bottles, bottle)
	s.prints = append(s.prints, printOf(sheet, share))
	for _, p := range sheet.Pieces {
		if !containsPiece(s.pieces, p.ID) {
			s.pieces = append(s.pieces, p)
			s.measured.Features = append(s.measured.Features, only(sheet.Features, func(f bench.Feature) bool { return f.PieceID == p.ID })...)
		}
	}
	s.measured.Specimens = append(s.measured.Specimens, sheet.Specimens...)
	s.measured.Readings = append(s.measured.Readings, sheet.Readings...)
	return nil
}

func containsPiece(pieces []bench.Piece, id string) bool {
	for _, p := range pieces {
		if p.ID == id {
			return true
		}
	}
	return false
}

// printOf is a print as the rules of pooling take it.
func printOf(sheet printing.RunSheet, share float64) setup.Print {
	r := sheet.Run
	took := r.Took()
	p := setup.Print{Code: r.Code, Copies: int64(len(sheet.Specimens)), Share: share, TookS: took.S, NoTime: took.Reason, OursS: r.OurEstimateS, SoftwareS: r.SoftwareEstimateS,
		LightOnS: quantity.Or(r.LightOnS, 0), Layers: r.Layers, AttendedMin: quantity.Or(r.AttendedMin, 0), Counts: bench.CountsOf(bench.TallyOf(sheet.Specimens))}
	card, err := kit.CardOfResin(sheet.Resin)
	switch {
	case err != nil:
		p.NoPrice = fmt.Sprintf("The price of %s cannot be worked out: %v.", sheet.Resin.Name, err)
	default:
		p.PerLitre = card.Price.PerLitre
	}
	switch {
	case r.ResinUsedG == nil:
		p.NoResin = fmt.Sprintf("The resin used by %s is not known; weigh the bottle before and after.", r.Code)
	case sheet.Resin.DensityGML == nil:
		p.NoResin = fmt.Sprintf("The density of %s is not known, so its grams have no litres.", sheet.Resin.Name)
	default:
		p.ResinML = quantity.Ptr(*r.ResinUsedG / *sheet.Resin.DensityGML)
	}
	return p
}

func (s side) figures(settings bench.Settings) (Side, error) {
	of := func(f func(printing.RunSheet) string) string { return setup.OneOf(s.sheets, f) }
	out := Side{
		MachineID: s.machine.ID, PieceID: s.pieces[0].ID, Difficulty: setup.OneOf(s.pieces, kit.DifficultyWords),
		Machine: s.machine.Name, Resin: of(func(r printing.RunSheet) string { return r.Resin.Name }),
		Profile:  of(func(r printing.RunSheet) string { return r.Profile.Code }),
		Settings: of(func(r printing.RunSheet) string { return r.Settings }),
		Basis:    of(func(r printing.RunSheet) string { return r.Profile.Basis }),
		Piece:    setup.OneOf(s.pieces, func(p bench.Piece) string { return p.Name }),
		SetAside: []string{},
	}
	out.Label = fmt.Sprintf("%s with %s, %s", out.Machine, out.Resin, out.Settings)
	for _, r := range s.sheets {
		out.Runs = append(out.Runs, r.Run.Code)
	}
	times := setup.TimesOf(s.prints)
	out.actual, out.ActualS, out.ActualN, out.PerPieceS = times.Took, times.MeanS, int64(len(times.Took)), times.PerPieceS
	out.OurS, out.SoftwareS, out.Shared = times.OursS, times.SoftwareS, times.Shared
	var err error
	if out.Bias, err = setup.BiasOf(s.prints); err != nil {
		return out, err
	}
	if err := s.outcomes(&out); err != nil {
		return out, err
	}
	out.Conditions = s.conditions(out.Outcomes.Judged)
	if out.Dimensions, err = s.measured.Dimensions(); err != nil {
		return out, err
	}
	if out.Ladders, err = s.measured.Ladders(s.machine); err != nil {
		return out, err
	}
	out.values = s.specimenMeans()
	out.Cost, out.CostReason, err = setup.CostOf(s.prints, setup.Prices{WastePct: settings.WastePct, PowerW: s.machine.PowerW, EnergyPerKWh: settings.EnergyPerKWh,
		LabourPerH: settings.LabourPerH, Consumables: kit.Consumables(s.machine)})
	return out, err
}

func (s side) outcomes(out *Side) error {
	counts := setup.CountsOf(s.prints)
	out.Copies, out.Outcomes = counts.Specimens, Outcomes{Judged: counts.Judged(), Counts: counts}
	for _, p := range s.measured.Specimens {
		if p.SetAside() {
			out.SetAside = append(out.SetAside, p.Code)
		}
	}
	rates, err := setup.RatesOf(counts)
	out.AllFailures, out.ByMachine, out.MicroDefect = rates.Failed, rates.ByMachine, rates.Micro
	return err
}

// specimenMeans are a size's means by specimen: readings repeated on one
// specimen are not further evidence on the set-up.
func (s side) specimenMeans() map[string][]float64 {
	type key struct{ feature, specimen string }
	values := map[key][]*float64{}
	for _, r := range s.measured.Readings {
		k := key{r.FeatureID, r.SpecimenID}
		values[k] = append(values[k], r.ValueMM)
	}
	out := map[string][]float64{}
	counts := s.measured.Counts()
	for _, f := range s.measured.Features {
		for _, p := range s.measured.Specimens {
			if mean := setup.MeanKnown(values[key{f.ID, p.ID}]); mean != nil && counts[p.ID] {
				out[f.Name] = append(out[f.Name], *mean)
			}
		}
	}
	return out
}

// conditions are those that the audit weighs: the mean of a number that is
// known for every print, a word that is the same for every print (else all of
// them), a flag that is set on any. The machine's own are computed at each start.
func (s side) conditions(judged int64) audit.Conditions {
	mean := func(of func(printing.RunSheet) *float64) *float64 { return setup.MeanAll(s.sheets, of) }
	word := func(of func(printing.RunSheet) *string) any {
		if w := setup.Word(s.sheets, of); w != nil {
			return *w
		}
		return nil
	}
	anyOf := func(of func(printing.RunSheet) *bool) *bool { return setup.AnyTrue(s.sheets, of) }
	c := audit.Conditions{
		Process:       quantity.Ptr(s.machine.Process()),
		LayerUM:       mean(func(r printing.RunSheet) *float64 { return &r.Profile.LayerUM }),
		ScalePct:      setup.MeanAll(s.measured.Specimens, func(p bench.Specimen) *float64 { return &p.ScalePct }),
		Piece:         setup.OneOf(s.pieces, func(p bench.Piece) string { return p.Name }),
		PieceRevision: setup.OneOf(s.pieces, func(p bench.Piece) string { return fmt.Sprintf("%s (mesh %.8s)", p.Revision, p.MeshSHA256) }),
		Resin:         setup.OneOf(s.sheets, func(r printing.RunSheet) string { return r.Resin.Name }),
		FilmLayers:    mean(func(r printing.RunSheet) *float64 { return s.history.FilmWear(r.Run.StartedMS).Amount }),
		FilmClouded:   anyOf(func(r printing.RunSheet) *bool { return r.Run.FilmClouded }),
		DaysSinceLevel: mean(func(r printing.RunSheet) *float64 {
			return s.history.LevelAt(r.Run.StartedMS).Days
		}),
		MovedSinceLevel: anyOf(func(r printing.RunSheet) *bool { return s.history.LevelAt(r.Run.StartedMS).Moved }),
		ResinTempC:      mean(func(r printing.RunSheet) *float64 { return r.Run.ResinTempC }),
		Orientation:     word(func(r printing.RunSheet) *string { return r.Run.Orientation }),
		Supports:        word(func(r printing.RunSheet) *string { return r.Run.Supports }),
		Antialiasing:    setup.OneOf(s.sheets, func(r printing.RunSheet) string { return kit.AntialiasingWords(r.Profile) }),
		WashS:           mean(func(r printing.RunSheet) *float64 { return r.Run.WashS }),
		CureS:           mean(func(r printing.RunSheet) *float64 { return r.Run.CureS }),
		Software:        word(func(r printing.RunSheet) *string { return r.Run.Software }),
	}
	if basis := setup.OneOf(s.sheets, func(r printing.RunSheet) string { return r.Profile.Basis }); !strings.Contains(basis, setup.Mixed) {
		c.ExposureBasis = &basis
	}
	if surface := setup.Word(s.sheets, func(r printing.RunSheet) *string { return r.Run.Surface }); surface != nil && !strings.Contains(*surface, setup.Mixed) {
		c.Surface = surface
	}
	// Everything on the plate counts here: a full plate is another contest than one piece.
	if copies := mean(func(r printing.RunSheet) *float64 { return quantity.Ptr(float64(r.Run.Copies)) }); copies != nil {
		c.Copies = quantity.Ptr(int64(math.Round(*copies)))
	}
	if judged > 0 {
		c.Specimens = &judged
	}
	c.BottleAgeDays = setup.MeanAll(s.bottles, func(b machine.Bottle) *float64 { return b.AgeDays })
	c.BottleExpired = setup.AnyTrue(s.bottles, func(b machine.Bottle) *bool { return b.Expired() })
	return c
}

// span is from the first to the last of all prints of two sides.
func span(a, b side) (first, last int64) {
	first, last = a.sheets[0].Run.StartedMS, a.sheets[0].Run.StartedMS
	for _, s := range []side{a, b} {
		for _, r := range s.sheets {
			first, last = min(first, r.Run.StartedMS), max(last, r.Run.StartedMS)
		}
	}
	return first, last
}

// since is a knot in a set-up's name: after upgrade of 2026-11-14.
func since(k *machine.Knot) string {
	if k == nil {
		return ""
	}
	return fmt.Sprintf("after %s of %s", say.Words(say.List(k.Kinds)), say.Day(k.AtMS))
}
