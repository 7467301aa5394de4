package printing

import (
	"context"
	"fmt"

	"ojime/internal/bench"
	"ojime/internal/core/machine"
	"ojime/internal/core/metrology"
	"ojime/internal/core/setup"
	"ojime/internal/store"
	"ojime/internal/work/kit"
)

// RunSheet is one run on one page. Readings are those that count; Corrected
// are those that a correction replaced.
type RunSheet struct {
	Run     bench.Run     `json:"run"`
	Took    bench.Took    `json:"took"`
	Machine bench.Machine `json:"machine"`
	// Unit is how the very machine came, and who has an interest in it; empty where not known.
	Unit     string        `json:"unit"`
	Resin    bench.Resin   `json:"resin"`
	Profile  bench.Profile `json:"profile"`
	Settings string        `json:"settings"`
	// SettingsSay is all that they set, in words.
	SettingsSay []string          `json:"settings_say"`
	Condition   machine.Condition `json:"condition"`
	// Room is what it was made in, RoomReadings what was read of that, also what was taken back.
	Room         machine.Room        `json:"room"`
	RoomReadings []bench.RoomReading `json:"room_readings"`
	// RoomOutside says that it was made outside what is stated for its resin, nil where not known.
	RoomOutside *bool `json:"room_outside"`
	// Light is the light where its copies lay, nil where that is not known.
	Light     *kit.LightThere  `json:"light"`
	Printed   string           `json:"printed"`
	Contents  []Printed        `json:"contents"`
	Pieces    []bench.Piece    `json:"pieces"`
	Features  []bench.Feature  `json:"features"`
	Specimens []bench.Specimen `json:"specimens"`
	Readings  []bench.Reading  `json:"readings"`
	Corrected []bench.Reading  `json:"corrected"`
	// Doubtful are the readings that count and were taken while their instrument could not be
	// relied on, by their ids.
	Doubtful []string `json:"doubtful"`
	// Ratings are what was judged of its copies by eye and hand, Rerated those that were
	// corrected or taken back.
	Ratings []bench.Rated `json:"ratings"`
	Rerated []bench.Rated `json:"rerated"`
	// Photographs are of its copies, with what was measured on them, the first first.
	Photographs []bench.Pictured `json:"photographs"`
	// Forms are what is measured of its pieces beyond single sizes, FormReadings what was read,
	// also what was taken back.
	Forms        []bench.Form        `json:"forms"`
	FormReadings []bench.FormReading `json:"form_readings"`
	// FormWords are what each of those comes to.
	FormWords []string `json:"form_words"`
	// FitMatrices are its fits over all copies, by the parts that they were tried with.
	FitMatrices []FitMatrix `json:"fit_matrices"`
	// Stages are those that its copies came to, also those taken back, Reached the stage that
	// each copy is in and ReworkMin the minutes that were worked on it, nil where none are
	// noted, in the order of the copies.
	Stages    []bench.SpecimenStage `json:"stages"`
	Reached   []string              `json:"reached"`
	ReworkMin []*float64            `json:"rework_min"`
	// Stressed are its copies in series of stress tests, with what those showed.
	Stressed   []bench.Stressed         `json:"stressed"`
	Dimensions *metrology.SummaryResult `json:"dimensions"`
	Ladders    []LadderResult           `json:"ladders"`
	// Later says of sizes that were read on several days how they changed.
	Later []string `json:"later"`
	// Corrections are what is proposed so that its sizes come right, with what is expected
	// then, and whether what an earlier print proposed came true.
	Corrections []string          `json:"corrections"`
	SetAside    []string          `json:"set_aside"`
	Counts      bench.Counts      `json:"counts"`
	History     []bench.Amendment `json:"history"`
	// Reference is set where it is no print, but what prints are held against.
	Reference *bench.Reference `json:"-"`
	// Motion is how its settings move, in words.
	Motion string `json:"-"`
	// sorted gives its readings by feature.
	sorted func() map[string][]CopyReadings
}

// ReadRunSheet is RunSheet within a transaction.
func ReadRunSheet(t *store.Tx, id string) (RunSheet, error) {
	sheets, err := NewReader(t).Sheets(id)
	if err != nil {
		return RunSheet{}, err
	}
	out := *sheets[0]
	if out.Reference != nil {
		return RunSheet{}, fmt.Errorf("run %s: %w", id, bench.ErrNotFound)
	}
	if out.History, err = t.AmendmentsOf("run", id); err != nil {
		return out, err
	}
	out.SettingsSay = kit.SettingsWords(out.Profile)
	if err := out.Evaluate(t); err != nil {
		return out, err
	}
	return out, out.corrections(t)
}

// Reader reads runs with what hangs on them, without computing, each once within a
// transaction.
type Reader struct {
	kit.Lookup
	t     *store.Tx
	known map[string]*RunSheet
}

// NewReader makes one for a transaction.
func NewReader(t *store.Tx) *Reader {
	return &Reader{Lookup: kit.NewLookup(t), t: t, known: map[string]*RunSheet{}}
}

// Sheets reads runs, and references, all at once, and gives them in the order of their ids. They are not to be changed.
// One that is not on record is bench.ErrNotFound.
func (r *Reader) Sheets(ids ...string) ([]*RunSheet, error) {
	var missing []string
	for _, id := range ids {
		if _, known := r.known[id]; !known {
			missing = append(missing, id)
		}
	}
	if err := r.read(missing); err != nil {
		return nil, err
	}
	out := make([]*RunSheet, len(ids))
	for i, id := range ids {
		out[i] = r.known[id]
	}
	return out, nil
}

func (r *Reader) read(ids []string) error {
	runs, err := r.t.RunsByID(ids)
	if err != nil {
		return err
	}
	specimens, err := r.t.SpecimensOfRuns(ids)
	if err != nil {
		return err
	}
	readings, err := r.t.ReadingsOfRuns(specimens)
	if err != nil {
		return err
	}
	ratings, err := r.t.RatingsOfRuns(ids)
	if err != nil {
		return err
	}
	photographs, err := r.t.PhotographsOfRuns(ids)
	if err != nil {
		return err
	}
	stressed, err := r.t.StressedOfRuns(ids)
	if err != nil {
		return err
	}
	formReadings, err := r.t.FormReadingsOfRuns(ids)
	if err != nil {
		return err
	}
	stages, err := r.t.StagesOfRuns(ids)
	if err != nil {
		return err
	}
	rooms, err := r.t.RoomReadingsOfRuns(ids)
	if err != nil {
		return err
	}
	for _, id := range ids {
		run, there := runs[id]
		if !there {
			if r.known[id], err = r.reference(id); err != nil {
				return err
			}
			continue
		}
		s := &RunSheet{Run: run, Took: run.Took(), Specimens: specimens[id], Stressed: stressed[id], Stages: stages[id], FormReadings: formReadings[id]}
		s.Room, s.RoomReadings = roomOf(run, rooms[id]), rooms[id]
		s.besides()
		s.Readings, s.Corrected = r.counting(id, readings[id])
		if err := s.lit(r.Lookup); err != nil {
			return err
		}
		if s.Doubtful, err = r.Doubtful(s.Readings); err != nil {
			return err
		}
		if s.Ratings, s.Rerated, err = r.rated(ratings[id]); err != nil {
			return err
		}
		if s.Photographs, err = r.pictured(photographs[id]); err != nil {
			return err
		}
		if err := s.readKit(r.Lookup); err != nil {
			return err
		}
		if err := s.readPieces(r.Lookup); err != nil {
			return err
		}
		s.sortOnce(r.t)
		r.known[id] = s
	}
	return nil
}

// lit tells the light where the copies lay.
func (s *RunSheet) lit(from kit.Lookup) error {
	lights, err := from.Light(s.Run.MachineID)
	if err != nil {
		return err
	}
	m, err := from.Machine(s.Run.MachineID)
	if err != nil {
		return err
	}
	s.Light, err = lights.Under(m, s.Run.StartedMS, s.Specimens)
	return err
}

// rated puts ratings with their sittings, those that count and the rest.
func (r *Reader) rated(ratings []bench.Rating) (count, corrected []bench.Rated, err error) {
	all := make([]bench.Rated, len(ratings))
	for i, v := range ratings {
		all[i].Rating = v
		if all[i].Sitting, err = r.Sitting(v.SittingID); err != nil {
			return nil, nil, err
		}
	}
	count, corrected = bench.CountingRatings(all)
	return count, corrected, nil
}

// Doubtful are the ids of readings that were taken while their instrument could not be
// relied on.
func (r *Reader) Doubtful(readings []bench.Reading) ([]string, error) {
	out := []string{}
	for _, v := range readings {
		if v.InstrumentID == nil {
			continue
		}
		doubts, err := r.Doubts(*v.InstrumentID)
		if err != nil {
			return nil, err
		}
		for _, d := range doubts {
			if d.Holds(v.RecordedMS) {
				out = append(out, v.ID)
			}
		}
	}
	return out, nil
}

// pictured puts photographs that were not taken back with what was measured on them.
func (r *Reader) pictured(all []bench.Photograph) ([]bench.Pictured, error) {
	out, ids := []bench.Pictured{}, make([]string, len(all))
	if len(all) == 0 {
		return out, nil
	}
	for i, p := range all {
		ids[i] = p.ID
	}
	measures, err := r.t.MeasuresOf(ids)
	if err != nil {
		return nil, err
	}
	for _, p := range all {
		if p.TakenBackMS != nil {
			continue
		}
		with, err := p.WithMeasures(measures)
		if err != nil {
			return nil, err
		}
		out = append(out, with)
	}
	return out, nil
}

// readKit reads what the print was made on, with and of, and the machine's condition
// when it began.
func (s *RunSheet) readKit(lookup kit.Lookup) (err error) {
	if s.Machine, err = lookup.Machine(s.Run.MachineID); err != nil {
		return err
	}
	unit, err := lookup.Unit(s.Run.MachineID)
	if err != nil {
		return err
	}
	s.Unit = kit.ProvenanceOf(unit, s.Machine)
	if s.Resin, err = lookup.Resin(s.Run.ResinID); err != nil {
		return err
	}
	s.RoomOutside = s.Resin.Window().Outside(setup.TempC(s.Run.ResinTempC, s.Run.RoomTempC))
	if s.Profile, err = lookup.Profile(s.Run.ProfileID); err != nil {
		return err
	}
	s.Settings = kit.SettingsName(s.Profile)
	if s.Motion, err = lookup.Motion(s.Run.ProfileID); err != nil {
		return err
	}
	history, err := lookup.History(s.Run.MachineID)
	if err != nil {
		return err
	}
	s.Condition = history.At(s.Run.StartedMS)
	return nil
}

// readPieces reads every piece on the plate, in the order of its specimens, and what
// can be measured on each.
func (s *RunSheet) readPieces(lookup kit.Lookup) error {
	s.Pieces, s.Features, s.Forms = []bench.Piece{}, []bench.Feature{}, []bench.Form{}
	tallies, names := bench.TallyOf(s.Specimens), map[string]string{}
	for _, t := range tallies {
		piece, err := lookup.Piece(t.PieceID)
		if err != nil {
			return err
		}
		s.Pieces = append(s.Pieces, piece)
		names[piece.ID] = piece.Name
	}
	s.Contents, s.Counts = PrintedOf(tallies, names), bench.CountsOf(tallies)
	s.Printed = PrintedWords(s.Contents)
	for _, p := range s.Pieces {
		features, err := lookup.Features(p.ID)
		if err != nil {
			return err
		}
		s.Features = append(s.Features, features...)
		forms, err := lookup.Forms(p.ID)
		if err != nil {
			return err
		}
		s.Forms = append(s.Forms, forms...)
	}
	return nil
}

// Evaluate works out sizes and ladders of what was read.
func (s *RunSheet) Evaluate(t *store.Tx) error {
	instruments, err := t.Instruments()
	if err != nil {
		return err
	}
	in := Measured{Features: s.Features, Specimens: s.Specimens, Prints: []map[string][]CopyReadings{s.ByFeature()}, Instruments: instruments}
	if s.Dimensions, err = in.Dimensions(); err != nil {
		return err
	}
	s.Ladders, err = in.Ladders(s.Machine)
	s.Later, s.FormWords, s.FitMatrices = s.OverDays(), s.formWords(), s.fitMatrices()
	s.SetAside = []string{}
	for _, p := range s.Specimens {
		if p.SetAside() {
			s.SetAside = append(s.SetAside, p.Code)
		}
	}
	return err
}

// RunSheet reads one run with everything that hangs on it.
func (w *Tasks) RunSheet(ctx context.Context, id string) (out RunSheet, err error) {
	err = w.Store.Read(ctx, func(t *store.Tx) error {
		out, err = ReadRunSheet(t, id)
		return err
	})
	return out, err
}
