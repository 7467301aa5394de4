// Package side brings the prints of one side of a comparison together with all that they
// refer to: what was read on them, in which conditions they were made, what failed.
package side

import (
	"fmt"
	"slices"

	"ojime/internal/bench"
	"ojime/internal/core/cost"
	"ojime/internal/core/machine"
	"ojime/internal/core/metrology"
	"ojime/internal/core/quantity"
	"ojime/internal/core/setup"
	"ojime/internal/core/timing"
	"ojime/internal/store"
	"ojime/internal/work/kit"
	"ojime/internal/work/planning"
	"ojime/internal/work/printing"
)

// Side is one set-up with the figures of its prints that are not set against others'.
// Times are seconds a plate; n stands beside each.
type Side struct {
	Letter string `json:"letter"`
	// ReferenceID is set where the side is a reference: it has readings, and no time, failures
	// or cost.
	ReferenceID string   `json:"reference_id"`
	Label       string   `json:"label"`
	RunIDs      []string `json:"run_ids"`
	Runs        []string `json:"runs"`
	MachineID   string   `json:"machine_id"`
	PieceID     string   `json:"piece_id"`
	Difficulty  string   `json:"difficulty"`
	Machine     string   `json:"machine"`
	// Unit is how its very machine came, and who has an interest in it; empty where not known.
	Unit  string `json:"unit"`
	Resin string `json:"resin"`
	// ProfileID is of the settings that all its prints had; empty where they vary.
	ProfileID string   `json:"profile_id"`
	Profile   string   `json:"profile"`
	Settings  string   `json:"settings"`
	Basis     string   `json:"basis"`
	Piece     string   `json:"piece"`
	Copies    int64    `json:"copies"`
	PerPieceS *float64 `json:"per_piece_s"`
	// Shared says that plates held other pieces too: time, resin and cost of a piece are
	// then its share by volume.
	Shared     bool                     `json:"shared"`
	OurS       *float64                 `json:"our_estimate_s"`
	SoftwareS  *float64                 `json:"software_estimate_s"`
	Bias       *timing.BiasResult       `json:"bias"`
	Outcomes   Outcomes                 `json:"outcomes"`
	Dimensions *metrology.SummaryResult `json:"dimensions"`
	// Corrections are what is proposed so that its sizes come right, and what is expected then.
	Corrections []string          `json:"corrections"`
	SetAside    []string          `json:"set_aside"`
	Cost        *cost.PieceResult `json:"cost"`
	CostReason  string            `json:"cost_reason"`
	// Washed and Cured are how long, against the label of the resin; Rose is how fast its
	// prints rose, against what the maker claims.
	Washed string `json:"washed"`
	Cured  string `json:"cured"`
	Rose   *Rose  `json:"rose"`
	// Warmth is what cold or heat did to it, where some prints were cold or hot.
	Warmth []setup.WarmContrast `json:"warmth"`
	// PerDegree is what a degree does to the time of its prints, where they tell.
	PerDegree *setup.WarmSlope `json:"per_degree"`
	// Gaps are the figures that can't be worked out.
	Gaps quantity.Gaps `json:"-"`
	// OddsPerDegree is what a degree does to the odds that a print fails, where they tell.
	OddsPerDegree *setup.WarmOdds `json:"odds_per_degree"`
}

// Prints are the prints of one side with what they refer to, as far as they concern the
// pieces compared. All are of one machine; resin and settings may vary, which the audit
// then says.
type Prints struct {
	// Reference is set where the side is one.
	Reference *bench.Reference
	Machine   bench.Machine
	History   machine.History
	Sheets    []*printing.RunSheet
	Prints    []setup.Print
	Pieces    []bench.Piece
	Lots      []*string
	Bottles   []machine.Bottle
	Measured  printing.Measured
	// RemovalS is how long taking supports off took, print by print; nil where nobody timed it.
	RemovalS []*float64
}

// Loader reads sides, and what several of them refer to once.
type Loader struct {
	t           *store.Tx
	reader      *printing.Reader
	bottleOf    func(string) (bench.Bottle, error)
	Instruments []bench.Instrument
}

func NewLoader(t *store.Tx, reader *printing.Reader) (l Loader, err error) {
	l = Loader{t: t, reader: reader, bottleOf: reader.Bottle}
	l.Instruments, err = t.Instruments()
	return l, err
}

// Side reads the prints of a side; a piece narrows what is asked to its copies.
func (l Loader) Side(runIDs []string, pieceID string) (s Prints, err error) {
	sheets, err := l.reader.Sheets(runIDs...)
	if err != nil {
		return s, err
	}
	s.makeRoom(sheets)
	for _, sheet := range sheets {
		if s.Reference = sheet.Reference; s.Reference != nil && len(sheets) > 1 {
			return s, fmt.Errorf("%s is a reference, which is a side of its own; take it or the prints: %w", sheet.Run.Code, bench.ErrConflict)
		}
		if s.Machine.ID != "" && s.Machine.ID != sheet.Machine.ID {
			return s, fmt.Errorf("a side holds prints of %s and %s; choose prints of one machine: %w", s.Machine.Name, sheet.Machine.Name, bench.ErrConflict)
		}
		s.Machine = sheet.Machine
		loads, err := planning.LoadsOfSpecimens(l.reader.Piece, sheet.Specimens)
		if err != nil {
			return s, err
		}
		sheet = Narrow(sheet, pieceID)
		if len(sheet.Specimens) == 0 {
			return s, fmt.Errorf("%s holds no copy of the piece compared; leave it out: %w", sheet.Run.Code, bench.ErrConflict)
		}
		if err := s.take(sheet, planning.ShareOf(loads, pieceID), l.bottleOf); err != nil {
			return s, err
		}
	}
	s.Measured.Instruments = l.Instruments
	if s.Reference != nil {
		s.RemovalS = make([]*float64, 1)
		return s, nil
	}
	if s.History, err = l.reader.History(s.Machine.ID); err != nil {
		return s, err
	}
	steps, err := l.t.StepsOfRuns(runIDs)
	if err != nil {
		return s, err
	}
	for _, sheet := range s.Sheets {
		s.RemovalS = append(s.RemovalS, removalOf(steps[sheet.Run.ID]))
	}
	return s, nil
}

// makeRoom is asked once for what a side of many prints will hold.
func (s *Prints) makeRoom(sheets []*printing.RunSheet) {
	specimens := 0
	for _, sheet := range sheets {
		specimens += len(sheet.Specimens)
	}
	s.Sheets, s.Prints = make([]*printing.RunSheet, 0, len(sheets)), make([]setup.Print, 0, len(sheets))
	s.Measured.Specimens = make([]bench.Specimen, 0, specimens)
}

// removalOf adds up how long taking supports off took, s; nil where no such step ended.
func removalOf(steps []bench.ProcessStep) (out *float64) {
	for _, step := range steps {
		if took := step.TookS(); step.Kind == "supports" && took != nil && *took > 0 {
			out = quantity.Ptr(quantity.Or(out, 0) + *took)
		}
	}
	return out
}

// Narrow is what of a sheet concerns one piece: the sheet itself where it holds no other.
func Narrow(sheet *printing.RunSheet, pieceID string) *printing.RunSheet {
	if pieceID == "" || len(sheet.Pieces) == 1 && sheet.Pieces[0].ID == pieceID {
		return sheet
	}
	keep, of := func(id string) bool { return id == pieceID }, *sheet
	of.Specimens = Only(of.Specimens, func(s bench.Specimen) bool { return keep(s.PieceID) })
	of.Pieces = Only(of.Pieces, func(p bench.Piece) bool { return keep(p.ID) })
	of.Features = Only(of.Features, func(f bench.Feature) bool { return keep(f.PieceID) })
	return &of
}

// Only are those of a list that are kept.
func Only[E any](list []E, keep func(E) bool) []E {
	if !slices.ContainsFunc(list, func(e E) bool { return !keep(e) }) { // as on plates of one piece
		return slices.Clip(list)
	}
	var out []E
	for _, e := range list {
		if keep(e) {
			out = append(out, e)
		}
	}
	return out
}

// take adds a print, of which the pieces compared are a share, to the side.
func (s *Prints) take(sheet *printing.RunSheet, share float64, bottleOf func(string) (bench.Bottle, error)) error {
	var age machine.Bottle
	var lot *string
	if sheet.Run.BottleID != nil {
		b, err := bottleOf(*sheet.Run.BottleID)
		if err != nil {
			return err
		}
		age = machine.BottleAt(b.OpenedOn, b.ExpiresOn, sheet.Run.StartedMS)
		if b.Lot != "" {
			lot = &b.Lot
		}
	}
	s.Sheets, s.Bottles, s.Lots = append(s.Sheets, sheet), append(s.Bottles, age), append(s.Lots, lot)
	s.Prints = append(s.Prints, PrintOf(sheet, share))
	for _, p := range sheet.Pieces {
		if !containsPiece(s.Pieces, p.ID) {
			s.Pieces = append(s.Pieces, p)
			s.Measured.Features = append(s.Measured.Features, Only(sheet.Features, func(f bench.Feature) bool { return f.PieceID == p.ID })...)
		}
	}
	s.Measured.Specimens = append(s.Measured.Specimens, sheet.Specimens...)
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

// PrintOf is a print as the rules of pooling take it.
func PrintOf(sheet *printing.RunSheet, share float64) setup.Print {
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
		p.NoResin = fmt.Sprintf("How much resin %s used is not known.", r.Code)
	case sheet.Resin.DensityGML == nil:
		p.NoResin = fmt.Sprintf("The density of %s is not known, so its grams have no litres.", sheet.Resin.Name)
	default:
		p.ResinML = quantity.Ptr(*r.ResinUsedG / *sheet.Resin.DensityGML)
	}
	return p
}

// dimensions summarises the sizes of a side. Readings are sorted here, beside what else is read of the record.
func (s Prints) dimensions() (*metrology.SummaryResult, error) {
	m := s.Measured
	for _, sheet := range s.Sheets {
		m.Prints = append(m.Prints, sheet.ByFeature())
	}
	return m.Dimensions()
}

func FiguresOf(sides []Prints, settings bench.Settings) ([]Side, error) {
	out := make([]Side, len(sides))
	for i, s := range sides {
		var err error
		if out[i], err = s.figures(settings); err != nil {
			return nil, err
		}
		out[i].Letter = Letter(i)
	}
	return out, nil
}

func (s Prints) figures(settings bench.Settings) (Side, error) {
	if s.Reference != nil {
		return s.ofReference()
	}
	of := func(f func(*printing.RunSheet) string) string { return setup.OneOf(s.Sheets, f) }
	out := Side{
		MachineID: s.Machine.ID, PieceID: s.Pieces[0].ID, Difficulty: setup.OneOf(s.Pieces, kit.DifficultyWords),
		Machine: s.Machine.Name, Unit: s.Sheets[0].Unit, Resin: of(func(r *printing.RunSheet) string { return r.Resin.Name }),
		Profile:  of(func(r *printing.RunSheet) string { return r.Profile.Code }),
		Settings: of(func(r *printing.RunSheet) string { return r.Settings }),
		Basis:    of(func(r *printing.RunSheet) string { return r.Profile.Basis }),
		Piece:    setup.OneOf(s.Pieces, func(p bench.Piece) string { return p.Name }),
		SetAside: []string{}, Corrections: []string{},
	}
	if id := s.Sheets[0].Profile.ID; !slices.ContainsFunc(s.Sheets, func(r *printing.RunSheet) bool { return r.Profile.ID != id }) {
		out.ProfileID = id
	}
	out.Label = fmt.Sprintf("%s with %s, %s", out.Machine, out.Resin, out.Settings)
	for _, r := range s.Sheets {
		out.RunIDs, out.Runs = append(out.RunIDs, r.Run.ID), append(out.Runs, r.Run.Code)
	}
	times := setup.TimesOf(s.Prints)
	out.PerPieceS, out.OurS, out.SoftwareS, out.Shared = times.PerPieceS, times.OursS, times.SoftwareS, times.Shared
	counts := setup.CountsOf(s.Prints)
	out.Copies, out.Outcomes = counts.Specimens, Outcomes{Judged: counts.Judged(), Counts: counts}
	for _, p := range s.Measured.Specimens {
		if p.SetAside() {
			out.SetAside = append(out.SetAside, p.Code)
		}
	}
	s.treatment(&out)
	if err := s.worked(&out, settings); err != nil {
		return out, err
	}
	return out, nil
}

// worked are the figures of a side that are worked out each by itself: one that can't be blocks none of the others.
func (s Prints) worked(out *Side, settings bench.Settings) (err error) {
	if out.Bias, err = setup.BiasOf(s.Prints); out.Gaps.Leave("How far the software's time is off", err) != nil {
		return err
	}
	if out.Dimensions, err = s.dimensions(); out.Gaps.Leave("Sizes", err) != nil {
		return err
	}
	if out.Dimensions != nil {
		out.Corrections = append(out.Corrections, metrology.Correct(*out.Dimensions).Says...)
	}
	out.Cost, out.CostReason, err = setup.CostOf(s.Prints, setup.Prices{WastePct: settings.WastePct, PowerW: s.Machine.PowerW, EnergyPerKWh: settings.EnergyPerKWh,
		LabourPerH: settings.LabourPerH, Consumables: kit.Consumables(s.Machine)})
	if why, left := quantity.WhyNot(err); left {
		out.Cost, out.CostReason = nil, why
	}
	return out.Gaps.Leave("Cost of a good piece", err)
}

// Span is from the first to the last of all prints of sides; references have none.
func Span(sides ...Prints) (first, last int64) {
	for _, s := range sides {
		for _, r := range s.Sheets {
			if s.Reference != nil {
				continue
			}
			if first == 0 || r.Run.StartedMS < first {
				first = r.Run.StartedMS
			}
			last = max(last, r.Run.StartedMS)
		}
	}
	return first, last
}

// Outcomes counts the specimens of a side; Judged leaves out those not judged yet.
type Outcomes struct {
	Judged int64 `json:"judged"`
	bench.Counts
}

// Letter is what a side is called: A to L.
func Letter(i int) string { return string(rune('A' + i)) }

// Holds reports a print of the side, with copies of a piece.
func (s Prints) Holds(runID, pieceID string) bool {
	return slices.ContainsFunc(s.Sheets, func(r *printing.RunSheet) bool { return r.Run.ID == runID }) &&
		slices.ContainsFunc(s.Pieces, func(p bench.Piece) bool { return p.ID == pieceID })
}
