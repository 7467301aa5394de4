package work

import (
	"fmt"

	"ojime/internal/bench"
	"ojime/internal/core/detail"
	"ojime/internal/core/metrology"
	"ojime/internal/core/quantity"
	"ojime/internal/store"
)

// RunSheet is one run on one page. Readings are those that count; Corrected
// are those that a correction replaced.
type RunSheet struct {
	Run        bench.Run                `json:"run"`
	Took       bench.Took               `json:"took"`
	Machine    bench.Machine            `json:"machine"`
	Resin      bench.Resin              `json:"resin"`
	Profile    bench.Profile            `json:"profile"`
	Piece      bench.Piece              `json:"piece"`
	Pieces     []bench.Piece            `json:"pieces"`
	Features   []bench.Feature          `json:"features"`
	Specimens  []bench.Specimen         `json:"specimens"`
	Readings   []bench.Reading          `json:"readings"`
	Corrected  []bench.Reading          `json:"corrected"`
	Dimensions *metrology.SummaryResult `json:"dimensions"`
	Ladders    []LadderResult           `json:"ladders"`
	SetAside   []string                 `json:"set_aside"`
}

// LadderResult is one ladder's threshold over the specimens in the contest.
type LadderResult struct {
	FeatureID string                 `json:"feature_id"`
	Name      string                 `json:"name"`
	Kind      string                 `json:"kind"`
	Result    detail.ThresholdResult `json:"result"`
	Specimens int64                  `json:"specimens"`
}

func runSheet(t *store.Tx, id string) (RunSheet, error) {
	out, err := readSheet(t, newShelf(t), id)
	if err != nil {
		return out, err
	}
	return out, out.evaluate(t)
}

// shelf reads each machine, resin, profile and piece once, however many runs
// refer to it.
type shelf struct {
	machine  func(string) (bench.Machine, error)
	resin    func(string) (bench.Resin, error)
	profile  func(string) (bench.Profile, error)
	piece    func(string) (bench.Piece, error)
	features func(string) ([]bench.Feature, error)
}

func newShelf(t *store.Tx) shelf {
	return shelf{once(t.Machine), once(t.Resin), once(t.Profile), once(t.Piece), once(t.FeaturesOfPiece)}
}

// once remembers what get found for each id.
func once[E any](get func(string) (E, error)) func(string) (E, error) {
	found := map[string]E{}
	return func(id string) (E, error) {
		if e, known := found[id]; known {
			return e, nil
		}
		e, err := get(id)
		if err == nil {
			found[id] = e
		}
		return e, err
	}
}

// readSheet reads a run and what hangs on it, without computing.
func readSheet(t *store.Tx, kit shelf, id string) (RunSheet, error) {
	var out RunSheet
	var err error
	if out.Run, err = t.Run(id); err != nil {
		return out, err
	}
	out.Took = out.Run.Took()
	if out.Machine, err = kit.machine(out.Run.MachineID); err != nil {
		return out, err
	}
	if out.Resin, err = kit.resin(out.Run.ResinID); err != nil {
		return out, err
	}
	if out.Profile, err = kit.profile(out.Run.ProfileID); err != nil {
		return out, err
	}
	if out.Piece, err = kit.piece(out.Run.PieceID); err != nil {
		return out, err
	}
	if out.Specimens, err = t.SpecimensOfRun(id); err != nil {
		return out, err
	}
	if err := out.readPieces(kit); err != nil {
		return out, err
	}
	readings, err := t.ReadingsOfRun(id)
	out.Readings, out.Corrected = counting(readings)
	return out, err
}

// readPieces reads every piece that shared the plate, the run's own first, and
// what can be measured on each.
func (s *RunSheet) readPieces(kit shelf) error {
	s.Pieces, s.Features = []bench.Piece{s.Piece}, []bench.Feature{}
	known := map[string]bool{s.Piece.ID: true}
	for _, p := range s.Specimens {
		if p.PieceID == nil || known[*p.PieceID] {
			continue
		}
		known[*p.PieceID] = true
		piece, err := kit.piece(*p.PieceID)
		if err != nil {
			return err
		}
		s.Pieces = append(s.Pieces, piece)
	}
	for _, p := range s.Pieces {
		features, err := kit.features(p.ID)
		if err != nil {
			return err
		}
		s.Features = append(s.Features, features...)
	}
	return nil
}

// counting splits readings into those that count and those corrected.
func counting(readings []bench.Reading) (count, corrected []bench.Reading) {
	replaced := map[string]bool{}
	for _, r := range readings {
		if r.CorrectsID != nil {
			replaced[*r.CorrectsID] = true
		}
	}
	count, corrected = []bench.Reading{}, []bench.Reading{}
	for _, r := range readings {
		if replaced[r.ID] {
			corrected = append(corrected, r)
		} else {
			count = append(count, r)
		}
	}
	return count, corrected
}

func (s *RunSheet) evaluate(t *store.Tx) error {
	instruments, err := t.Instruments()
	if err != nil {
		return err
	}
	in := measured{features: s.Features, specimens: s.Specimens, readings: s.Readings, instruments: instruments}
	if s.Dimensions, err = in.dimensions(); err != nil {
		return err
	}
	s.Ladders, err = in.ladders(s.Machine)
	s.SetAside = []string{}
	for _, p := range s.Specimens {
		if p.Judged() && !p.InDetailContest() {
			s.SetAside = append(s.SetAside, p.Code)
		}
	}
	return err
}

// measured is readings with what they were taken on.
type measured struct {
	features    []bench.Feature
	specimens   []bench.Specimen
	readings    []bench.Reading
	instruments []bench.Instrument
}

// counts reports whether a specimen's readings count: a lost one, or one whose
// identity is in doubt, is set aside.
func (m measured) counts() map[string]bool {
	out := map[string]bool{}
	for _, s := range m.specimens {
		out[s.ID] = s.Outcome != "lost" && s.SwappedWith == ""
	}
	return out
}

// dimensions summarises caliper readings; nil where there are none. Where
// several instruments were used, the coarsest one's uncertainty stands for all.
func (m measured) dimensions() (*metrology.SummaryResult, error) {
	var in metrology.SummaryInput
	counts, tools := m.counts(), byID(m.instruments, func(i bench.Instrument) string { return i.ID })
	for _, f := range m.features {
		if f.Kind != "dimension" {
			continue
		}
		row := metrology.FeatureReadings{Feature: f.Name, Axis: *f.Axis, Kind: *f.Side, NominalMM: *f.NominalMM}
		for _, r := range m.readings {
			if r.FeatureID != f.ID || r.ValueMM == nil || !counts[r.SpecimenID] {
				continue
			}
			row.ValuesMM = append(row.ValuesMM, *r.ValueMM)
			tool := tools[quantity.Or(r.InstrumentID, "")]
			in.Instrument.ResolutionMM = max(in.Instrument.ResolutionMM, tool.ResolutionMM)
			in.Instrument.ReferenceUMM = max(in.Instrument.ReferenceUMM, tool.ReferenceUMM)
		}
		if len(row.ValuesMM) > 0 {
			in.Readings = append(in.Readings, row)
		}
	}
	if len(in.Readings) == 0 {
		return nil, nil
	}
	out, err := metrology.Summary(in)
	if err != nil {
		return nil, fmt.Errorf("summarise dimensions: %w", err)
	}
	return &out, nil
}

// ladders computes the threshold of each ladder that was read.
func (m measured) ladders(machine bench.Machine) ([]LadderResult, error) {
	out := []LadderResult{}
	counts := m.counts()
	dots, err := pitchOf(machine)
	if err != nil {
		return nil, err
	}
	var pitch *float64
	if dots != nil {
		pitch = &dots.PitchUM
	}
	for _, f := range m.features {
		if f.Kind != "pins" && f.Kind != "gaps" {
			continue
		}
		in := detail.ThresholdInput{Ladder: f.Name, PitchUM: pitch}
		specimens, place := map[string]bool{}, map[float64]int{}
		for _, r := range m.readings {
			if r.FeatureID != f.ID || r.RungMM == nil || !counts[r.SpecimenID] {
				continue
			}
			at, seen := place[*r.RungMM]
			if !seen {
				at = len(in.Rungs)
				place[*r.RungMM], in.Rungs = at, append(in.Rungs, detail.Rung{SizeMM: *r.RungMM})
			}
			in.Rungs[at].Of++
			if *r.Intact {
				in.Rungs[at].Intact++
			}
			specimens[r.SpecimenID] = true
		}
		if len(in.Rungs) == 0 {
			continue
		}
		result, err := detail.Threshold(in)
		if err != nil {
			return nil, fmt.Errorf("ladder %s: %w", f.Name, err)
		}
		out = append(out, LadderResult{FeatureID: f.ID, Name: f.Name, Kind: f.Kind, Result: result, Specimens: int64(len(specimens))})
	}
	return out, nil
}
