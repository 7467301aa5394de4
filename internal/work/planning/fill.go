package planning

import (
	"context"
	"encoding/json"
	"fmt"
	"slices"

	"ojime/internal/bench"
	"ojime/internal/core/plan"
	"ojime/internal/core/quantity"
	"ojime/internal/core/timing"
	"ojime/internal/say"
	"ojime/internal/store"
	"ojime/internal/work/kit"
	"ojime/internal/work/task"
)

// FillSide is one machine with its settings in a fill plot. Times are corrected by what its
// prints took: Factor is by how much those of one piece were, FactorCI its interval at 95 %,
// over FactorN prints, FactorFrom says which; nil where nothing was learned, or the times
// themselves were. EqualS is a piece on a plate of as many copies as every side holds.
type FillSide struct {
	ProfileID  string             `json:"profile_id"`
	Label      string             `json:"label"`
	Machine    string             `json:"machine"`
	Load       timing.Load        `json:"load"`
	OneS       float64            `json:"one_s"`
	OnePI      *quantity.Interval `json:"one_pi_s"`
	EqualS     float64            `json:"equal_per_piece_s"`
	FullS      float64            `json:"full_per_piece_s"`
	PerPieceS  []float64          `json:"per_piece_s"`
	Factor     *float64           `json:"factor"`
	FactorCI   *quantity.Interval `json:"factor_ci"`
	FactorN    int64              `json:"factor_n"`
	FactorFrom string             `json:"factor_from"`
	Reason     string             `json:"reason"`
	Week       *FillWeek          `json:"week"`
	knows      bool

	machine  bench.Machine
	settings bench.Profile
	piece    bench.Piece
	scale    float64
	capacity int64
	past     []timing.Past
}

// FillWeek is what a machine makes in a week of the reviewer's hours with full plates of a
// piece: in all, how many of its plates end while nobody is there, and how long it prints and
// is looked after. SameDay is the most copies on one plate that are begun when the day begins
// and washed, dry and cured before it ends.
type FillWeek struct {
	Copies int64 `json:"copies"`
	// CopiesPI are the fewest and the most, over the interval of the time of one piece.
	CopiesPI  *quantity.Interval `json:"copies_pi"`
	Plates    int64              `json:"plates"`
	Overnight int64              `json:"overnight"`
	RunH      float64            `json:"run_h"`
	AttendedH float64            `json:"attended_h"`
	WaitH     float64            `json:"wait_h"`
	SameDay   int64              `json:"same_day"`
	After     AfterPrint         `json:"after"`
	Says      string             `json:"says"`
}

// FillPair is what two sides say of each other; A and B are their places.
type FillPair struct {
	A      int64             `json:"a"`
	B      int64             `json:"b"`
	Result timing.FillResult `json:"result"`
	Words  string            `json:"words"`
}

// FillPlot is time per piece against copies, 1 to Copies, for several machines. Equal is
// the most copies that one plate of every side holds; 0 where one cannot be told.
// Corrected says by which prints all sides are corrected, or why none is.
type FillPlot struct {
	Corrected string     `json:"corrected"`
	Piece     string     `json:"piece"`
	Copies    int64      `json:"copies"`
	Equal     int64      `json:"equal"`
	Sides     []FillSide `json:"sides"`
	Pairs     []FillPair `json:"pairs"`
}

// FillOption is a set of settings in a fill plot. RunIDs are the prints that its time may be learned from; nil for all of the
// machine since it became what it is.
type FillOption struct {
	ProfileID string
	RunIDs    []string
}

// Fill computes time per piece against copies for each profile.
func (w *Tasks) Fill(ctx context.Context, pieceID string, scalePct float64, profileIDs []string, copies int64) (out FillPlot, err error) {
	err = w.Store.Read(ctx, func(t *store.Tx) error {
		options := make([]FillOption, len(profileIDs))
		for i, id := range profileIDs {
			options[i].ProfileID = id
		}
		out, err = w.FillOf(t, pieceID, scalePct, options, copies)
		return err
	})
	return out, err
}

// FillOf is Fill within a transaction.
func (w *Tasks) FillOf(t *store.Tx, pieceID string, scalePct float64, options []FillOption, copies int64) (out FillPlot, err error) {
	piece, err := t.Piece(pieceID)
	if err != nil {
		return out, err
	}
	out = FillPlot{Piece: piece.Name, Copies: copies, Sides: []FillSide{}, Pairs: []FillPair{}}
	for _, o := range options {
		side, err := w.fillSide(t, piece, scalePct/100, o)
		if err != nil {
			return out, err
		}
		out.Sides = append(out.Sides, side)
	}
	out.correctAlike()
	for i := range out.Sides {
		if err := w.time(t, &out.Sides[i], copies); err != nil {
			return out, err
		}
	}
	if err := out.equal(); err != nil {
		return out, err
	}
	return out, out.pair(copies)
}

// equal is the time of a piece on plates of as many copies as all sides hold, of the sides
// whose time is known.
func (f *FillPlot) equal() error {
	var loads []timing.Load
	for _, s := range f.Sides {
		if s.knows {
			loads = append(loads, s.Load)
		}
	}
	if f.Equal = timing.EqualCopies(loads); f.Equal == 0 {
		return nil
	}
	for i, s := range f.Sides {
		if !s.knows {
			continue
		}
		res, err := timing.Fill(timing.FillInput{A: s.Load, B: s.Load, Copies: f.Equal})
		if err != nil {
			return err
		}
		f.Sides[i].EqualS = res.PerCopyAS
	}
	return nil
}

type capacityKey struct{ of string }

// capacity is how many copies a plate holds, worked out once for each plate and piece.
func (w *Tasks) capacity(surface plan.Plate, item plan.Item) (int64, error) {
	key, err := json.Marshal([]any{surface, surface.Dead, surface.Spots, item})
	if err != nil {
		return 0, fmt.Errorf("name a plate with its piece: %w", err)
	}
	return task.Recall(&w.held, 0, capacityKey{string(key)}, func() (int64, error) { return plan.Capacity(surface, item) })
}

// fillSide reads what the time of a side rests on.
func (w *Tasks) fillSide(t *store.Tx, piece bench.Piece, scale float64, o FillOption) (out FillSide, err error) {
	p, err := t.Profile(o.ProfileID)
	if err != nil {
		return out, err
	}
	m, err := t.Machine(p.MachineID)
	if err != nil {
		return out, err
	}
	out = FillSide{ProfileID: p.ID, Machine: m.Name, Label: fmt.Sprintf("%s, %s at %s µm", m.Name, kit.SettingsName(p), say.Figures(p.LayerUM, 4)), PerPieceS: []float64{},
		machine: m, settings: p, piece: piece, scale: scale}
	surface, err := PlateOf(t, m, UsualPlate())
	if err != nil {
		return out, err
	}
	if out.capacity, err = w.capacity(surface, plan.Item{Footprint: FootprintOf(piece), Scale: scale}); err != nil {
		return out, err
	}
	if out.capacity == 0 {
		usable, err := kit.UsableOf(t, m)
		out.Reason = fmt.Sprintf("Does not fit %s: %s", m.Name, usable.Says)
		return out, err
	}
	out.past, err = PastOf(t, m.ID, p, "", w.NowMS())
	if o.RunIDs != nil {
		out.past = slices.DeleteFunc(out.past, func(x timing.Past) bool { return !slices.Contains(o.RunIDs, x.RunID) })
	}
	return out, err
}

// correctAlike leaves each side the prints that it is corrected by: those of one kind that all sides have, else none. A side
// whose time is learned from its prints needs no correction, and one that does not fit has no time.
func (f *FillPlot) correctAlike() {
	var among []int
	var past [][]timing.Past
	for i, s := range f.Sides {
		if s.capacity > 0 && !s.learns() {
			own := slices.DeleteFunc(slices.Clone(s.past), func(p timing.Past) bool { return p.OursS == nil || p.Model != s.model() })
			among, past = append(among, i), append(past, own)
		}
	}
	if len(among) == 0 {
		return
	}
	chosen, from := timing.LearnAlike(past)
	for k, i := range among {
		f.Sides[i].past, f.Sides[i].FactorFrom = chosen[k], from
	}
	f.Corrected = "Times are corrected by prints " + from + "."
	if from == "" {
		f.Corrected = "Not every side has a print to correct its time by, so none is corrected."
	}
}

// learns reports a side whose machine hides its exposures: its time is learned, not modelled.
func (s FillSide) learns() bool {
	return s.machine.LightEngine != bench.Laser && (s.settings.ExposureS == nil || s.settings.BottomExposureS == nil)
}

// Grows reports a side whose time grows with what lies on its plate, as a laser's does.
func (s FillSide) Grows() bool { return s.machine.LightEngine == bench.Laser }

// model is the timing model of a side that does not learn.
func (s FillSide) model() string {
	if s.machine.LightEngine == bench.Laser {
		return modelLaser
	}
	return modelMasked
}

// time works out the times of a side by what it is corrected by.
func (w *Tasks) time(t *store.Tx, s *FillSide, copies int64) error {
	if s.capacity == 0 {
		return nil
	}
	one, two, err := w.oneAndTwo(t, *s)
	if err != nil {
		return err
	}
	if one.BestS == nil || two.BestS == nil {
		s.Reason = one.Estimate.Reason
		return nil
	}
	s.knows = true
	s.Load = timing.LoadOf(*one.BestS, *two.BestS, s.capacity)
	if one.Ours != nil {
		s.Factor, s.FactorCI, s.FactorN = quantity.Ptr(*one.BestS / *one.Estimate.TotalS), one.Ours.FactorCI, int64(one.Ours.N)
	} else {
		s.FactorFrom = ""
	}
	for n := range copies {
		res, err := timing.Fill(timing.FillInput{A: s.Load, B: s.Load, Copies: n + 1})
		if err != nil {
			return err
		}
		s.PerPieceS = append(s.PerPieceS, res.PerCopyAS)
	}
	full, err := timing.Fill(timing.FillInput{A: s.Load, B: s.Load, Copies: s.Load.Capacity})
	if err != nil {
		return err
	}
	s.OneS, s.OnePI, s.FullS = *one.BestS, one.BestPI, full.PerCopyAS
	s.Week, err = weekOf(t, s.settings, s.Load, s.OnePI)
	return err
}

// oneAndTwo are the times of a plate of one copy and of two, both corrected by the same
// prints: were each held to prints of its own fill, what a copy costs would be their
// difference instead of a copy's.
func (w *Tasks) oneAndTwo(t *store.Tx, s FillSide) (one, two *PlateTime, err error) {
	times := [2]*PlateTime{}
	for i := range times {
		e, _, err := w.estimate(t, s.machine, s.settings, []PlateLoad{{s.piece, s.scale, int64(i + 1)}}, s.past)
		if err != nil {
			return nil, nil, err
		}
		if times[i], err = TimeOfPlate(bench.Plate{}, e, s.past); err != nil {
			return nil, nil, err
		}
	}
	return times[0], times[1], nil
}

func (f *FillPlot) pair(copies int64) error {
	for i := range f.Sides {
		for j := i + 1; j < len(f.Sides); j++ {
			a, b := f.Sides[i], f.Sides[j]
			if !a.knows || !b.knows {
				continue
			}
			res, err := timing.Fill(timing.FillInput{A: a.Load, B: b.Load, Copies: copies})
			if err != nil {
				return err
			}
			f.Pairs = append(f.Pairs, FillPair{A: int64(i), B: int64(j), Result: res, Words: fillWords(a, b, res)})
		}
	}
	return nil
}

func fillWords(a, b FillSide, r timing.FillResult) string {
	faster, slower := a, b
	if r.RatioOne > 1 {
		faster, slower = b, a
	}
	times := say.Figure(max(r.RatioOne, 1/r.RatioOne))
	words := fmt.Sprintf("One piece: %s takes %s times as long as %s. ", slower.Label, times, faster.Label)
	if times == "1" {
		words = "One piece: both take the same time, to three figures. "
	}
	if r.Crossover != nil {
		words += fmt.Sprintf("From %s on it is the other way round for the first time. ", say.Counted(*r.Crossover, "copy", "copies"))
	} else if r.RatioOne != 1 {
		words += "The lines do not cross up to 500 copies. "
	}
	return words + fmt.Sprintf("Full plates (%d and %s): %s and %s min a piece.", a.Load.Capacity, say.Counted(b.Load.Capacity, "copy", "copies"), say.Figure(a.FullS/60), say.Figure(b.FullS/60))
}
