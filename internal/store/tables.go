package store

import (
	"cmp"
	"database/sql"
	"fmt"
	"slices"

	"ojime/internal/bench"
	"ojime/internal/store/db"
)

// The rows of each table and the types of the record have the same fields in
// the same order, so that one converts to the other and a difference fails the
// build.

// Machine reads one machine, or bench.ErrNotFound.
func (t *Tx) Machine(id string) (bench.Machine, error) {
	return Once(t, machineKey{id}, func() (bench.Machine, error) {
		row, err := t.q.MachineByID(t.ctx, id)
		return bench.Machine(row), read("machine", id, err)
	})
}

type machineKey struct{ id string }

// SaveMachine writes a machine.
func (t *Tx) SaveMachine(v bench.Machine) error {
	return saved("machine", t.q.SaveMachine(t.ctx, db.SaveMachineParams(v)))
}

// Machines lists every machine in its order.
func (t *Tx) Machines() ([]bench.Machine, error) {
	rows, err := t.q.Machines(t.ctx)
	return list("machine", rows, err, func(r db.Machine) bench.Machine { return bench.Machine(r) })
}

// Resin reads one resin, or bench.ErrNotFound.
func (t *Tx) Resin(id string) (bench.Resin, error) {
	row, err := t.q.ResinByID(t.ctx, id)
	return bench.Resin(row), read("resin", id, err)
}

// SaveResin writes a resin.
func (t *Tx) SaveResin(v bench.Resin) error {
	return saved("resin", t.q.SaveResin(t.ctx, db.SaveResinParams(v)))
}

// Resins lists every resin in its order.
func (t *Tx) Resins() ([]bench.Resin, error) {
	rows, err := t.q.Resins(t.ctx)
	return list("resin", rows, err, func(r db.Resin) bench.Resin { return bench.Resin(r) })
}

// Bottle reads one bottle, or bench.ErrNotFound.
func (t *Tx) Bottle(id string) (bench.Bottle, error) {
	if t.kept == nil {
		row, err := t.q.BottleByID(t.ctx, id)
		return bench.Bottle(row), read("bottle", id, err)
	}
	// Prints of a review are from many bottles; they are read at once.
	all, err := ask(t, bottlesByID{}, []string{"bottle"}, func() (map[string]bench.Bottle, error) {
		bottles, err := t.Bottles()
		out := make(map[string]bench.Bottle, len(bottles))
		for _, b := range bottles {
			out[b.ID] = b
		}
		return out, err
	})
	b, there := all[id]
	if err == nil && !there {
		err = sql.ErrNoRows
	}
	return b, read("bottle", id, err)
}

type bottlesByID struct{}

// SaveBottle writes a bottle.
func (t *Tx) SaveBottle(v bench.Bottle) error {
	return saved("bottle", t.q.SaveBottle(t.ctx, db.SaveBottleParams(v)))
}

// Bottles lists every bottle in its order.
func (t *Tx) Bottles() ([]bench.Bottle, error) {
	all, err := Once(t, allBottles{}, func() ([]bench.Bottle, error) {
		rows, err := t.q.Bottles(t.ctx)
		return list("bottle", rows, err, func(r db.Bottle) bench.Bottle { return bench.Bottle(r) })
	})
	return slices.Clone(all), err
}

type allBottles struct{}

// Piece reads one piece, or bench.ErrNotFound.
func (t *Tx) Piece(id string) (bench.Piece, error) {
	row, err := t.q.PieceByID(t.ctx, id)
	return bench.Piece(row), read("piece", id, err)
}

// SavePiece writes a piece.
func (t *Tx) SavePiece(v bench.Piece) error {
	return saved("piece", t.q.SavePiece(t.ctx, db.SavePieceParams(v)))
}

// Pieces lists every piece in its order.
func (t *Tx) Pieces() ([]bench.Piece, error) {
	rows, err := t.q.Pieces(t.ctx)
	return list("piece", rows, err, func(r db.Piece) bench.Piece { return bench.Piece(r) })
}

// Review reads one review, or bench.ErrNotFound.
func (t *Tx) Review(id string) (bench.Review, error) {
	row, err := t.q.ReviewByID(t.ctx, id)
	return bench.Review(row), read("review", id, err)
}

// SaveReview writes a review.
func (t *Tx) SaveReview(v bench.Review) error {
	return saved("review", t.q.SaveReview(t.ctx, db.SaveReviewParams(v)))
}

// RoadSoFar is which of the things of a review stand on record at all.
type RoadSoFar = db.RoadSoFarRow

// RoadSoFar reads which of the things of a review stand on record at all.
func (t *Tx) RoadSoFar() (RoadSoFar, error) {
	row, err := t.q.RoadSoFar(t.ctx)
	if err != nil {
		return row, fmt.Errorf("read the road so far: %w", err)
	}
	return row, nil
}

// Reviews lists every review in its order.
func (t *Tx) Reviews() ([]bench.Review, error) {
	rows, err := t.q.Reviews(t.ctx)
	return list("review", rows, err, func(r db.Review) bench.Review { return bench.Review(r) })
}

// Profile reads one profile, or bench.ErrNotFound.
func (t *Tx) Profile(id string) (bench.Profile, error) {
	row, err := t.q.ProfileByID(t.ctx, id)
	return bench.Profile(row), read("profile", id, err)
}

// SaveProfile writes a profile.
func (t *Tx) SaveProfile(v bench.Profile) error {
	return saved("profile", t.q.SaveProfile(t.ctx, db.SaveProfileParams(v)))
}

// Profiles lists every profile in its order.
func (t *Tx) Profiles() ([]bench.Profile, error) {
	rows, err := t.q.Profiles(t.ctx)
	return list("profile", rows, err, func(r db.Profile) bench.Profile { return bench.Profile(r) })
}

// Series reads one series, or bench.ErrNotFound.
func (t *Tx) Series(id string) (bench.Series, error) {
	row, err := t.q.SeriesByID(t.ctx, id)
	return bench.Series(row), read("series", id, err)
}

// SaveSeries writes a series.
func (t *Tx) SaveSeries(v bench.Series) error {
	return saved("series", t.q.SaveSeries(t.ctx, db.SaveSeriesParams(v)))
}

// AllSeries lists every series in its order.
func (t *Tx) AllSeries() ([]bench.Series, error) {
	rows, err := t.q.AllSeries(t.ctx)
	return list("series", rows, err, func(r db.Series) bench.Series { return bench.Series(r) })
}

// SaveMachineEvent writes a machine event.
func (t *Tx) SaveMachineEvent(v bench.MachineEvent) error {
	return saved("machine event", t.q.SaveMachineEvent(t.ctx, db.SaveMachineEventParams(v)))
}

// MachineEvents lists every machine event in its order.
func (t *Tx) MachineEvents() ([]bench.MachineEvent, error) {
	rows, err := t.q.MachineEvents(t.ctx)
	return list("machine event", rows, err, func(r db.MachineEvent) bench.MachineEvent { return bench.MachineEvent(r) })
}

// Feature reads one feature, or bench.ErrNotFound.
func (t *Tx) Feature(id string) (bench.Feature, error) {
	row, err := t.q.FeatureByID(t.ctx, id)
	return bench.Feature(row), read("feature", id, err)
}

// SaveFeature writes a feature.
func (t *Tx) SaveFeature(v bench.Feature) error {
	return saved("feature", t.q.SaveFeature(t.ctx, db.SaveFeatureParams(v)))
}

// Features lists every feature in its order.
func (t *Tx) Features() ([]bench.Feature, error) {
	rows, err := t.q.Features(t.ctx)
	return list("feature", rows, err, func(r db.Feature) bench.Feature { return bench.Feature(r) })
}

// SaveCell writes a cell.
func (t *Tx) SaveCell(v bench.Cell) error {
	return saved("cell", t.q.SaveCell(t.ctx, db.SaveCellParams(v)))
}

// Cells lists every cell in its order.
func (t *Tx) Cells() ([]bench.Cell, error) {
	rows, err := t.q.Cells(t.ctx)
	return list("cell", rows, err, func(r db.Cell) bench.Cell { return bench.Cell(r) })
}

// SaveCellReading writes a cell reading.
func (t *Tx) SaveCellReading(v bench.CellReading) error {
	return saved("cell reading", t.q.SaveCellReading(t.ctx, db.SaveCellReadingParams(v)))
}

// CellReadings lists every cell reading in its order.
func (t *Tx) CellReadings() ([]bench.CellReading, error) {
	rows, err := t.q.CellReadings(t.ctx)
	return list("cell reading", rows, err, func(r db.CellReading) bench.CellReading { return bench.CellReading(r) })
}

// Run reads one run, or bench.ErrNotFound.
func (t *Tx) Run(id string) (bench.Run, error) {
	row, err := t.q.RunByID(t.ctx, id)
	return bench.Run(row), read("run", id, err)
}

// RunsByID reads runs at once, by their ids; one that is not on record is missing.
func (t *Tx) RunsByID(ids []string) (map[string]bench.Run, error) {
	out, missing := make(map[string]bench.Run, len(ids)), []string{}
	for _, id := range ids {
		if r, seen := t.runs[id]; seen {
			out[id] = r
		} else {
			missing = append(missing, id)
		}
	}
	if len(missing) == 0 {
		return out, nil
	}
	rows, err := t.q.RunsByID(t.ctx, missing)
	for _, r := range rows {
		out[r.ID] = bench.Run(r)
	}
	return out, read("runs", "by their ids", err)
}

// SaveRun writes a run.
func (t *Tx) SaveRun(v bench.Run) error {
	return saved("run", t.q.SaveRun(t.ctx, db.SaveRunParams(v)))
}

// Runs lists every run in its order.
func (t *Tx) Runs() ([]bench.Run, error) {
	rows, err := t.q.Runs(t.ctx)
	return list("run", rows, err, func(r db.Run) bench.Run { return bench.Run(r) })
}

// RunsOfMachine lists the runs of one machine by their start.
func (t *Tx) RunsOfMachine(machineID string) ([]bench.Run, error) {
	rows, err := t.q.RunsOfMachine(t.ctx, machineID)
	return list("runs of machine", rows, err, func(r db.Run) bench.Run { return bench.Run(r) })
}

// RunsOfBottle lists the runs that drew on a bottle.
func (t *Tx) RunsOfBottle(bottleID string) ([]bench.Run, error) {
	rows, err := t.q.RunsOfBottle(t.ctx, &bottleID)
	return list("runs of bottle", rows, err, func(r db.Run) bench.Run { return bench.Run(r) })
}

// SaveReading writes a reading.
func (t *Tx) SaveReading(v bench.Reading) error {
	t.touched[v.SpecimenID] = true
	return saved("reading", t.q.SaveReading(t.ctx, db.SaveReadingParams(v)))
}

// ReadingLine is a reading with what it is of.
type ReadingLine struct {
	bench.Reading
	db.ReadingLinesRow
}

// ReadingLines lists the newest readings of prints, the last first, at most so many; of one
// machine or piece where its id is given.
func (t *Tx) ReadingLines(machineID, pieceID string, most int64) ([]ReadingLine, error) {
	rows, err := t.q.ReadingLines(t.ctx, db.ReadingLinesParams{MachineID: machineID, PieceID: pieceID, Most: most})
	return list("lines of readings", rows, err, func(r db.ReadingLinesRow) ReadingLine {
		return ReadingLine{bench.Reading(r.Reading), r}
	})
}

// Readings lists every reading in its order.
func (t *Tx) Readings() ([]bench.Reading, error) {
	rows, err := t.q.Readings(t.ctx)
	return list("reading", rows, err, func(r db.Reading) bench.Reading { return bench.Reading(r) })
}

// FeaturesOfPiece lists the features of piece.
func (t *Tx) FeaturesOfPiece(pieceID string) ([]bench.Feature, error) {
	rows, err := t.q.FeaturesOfPiece(t.ctx, pieceID)
	return list("features of piece", rows, err, func(r db.Feature) bench.Feature { return bench.Feature(r) })
}

// CellsOfSeries lists the cells of series.
func (t *Tx) CellsOfSeries(seriesID string) ([]bench.Cell, error) {
	rows, err := t.q.CellsOfSeries(t.ctx, seriesID)
	return list("cells of series", rows, err, func(r db.Cell) bench.Cell { return bench.Cell(r) })
}

// CellReadingsOfSeries lists the cell readings of series.
func (t *Tx) CellReadingsOfSeries(seriesID string) ([]bench.CellReading, error) {
	rows, err := t.q.CellReadingsOfSeries(t.ctx, seriesID)
	return list("cell readings of series", rows, err, func(r db.CellReading) bench.CellReading { return bench.CellReading(r) })
}

// ReadingsOfRun lists the readings of run.
func (t *Tx) ReadingsOfRun(runID string) ([]bench.Reading, error) {
	rows, err := t.q.ReadingsOfRun(t.ctx, runID)
	return list("readings of run", rows, err, func(r db.Reading) bench.Reading { return bench.Reading(r) })
}

// Reading reads one, or bench.ErrNotFound.
func (t *Tx) Reading(id string) (bench.Reading, error) {
	row, err := t.q.ReadingByID(t.ctx, id)
	return bench.Reading(row), read("reading", id, err)
}

// ReadingsOfRuns lists the readings of many runs at once, by run, in the order in which they
// were taken; they are not to be changed. The runs are given with all of their specimens.
func (t *Tx) ReadingsOfRuns(specimens map[string][]bench.Specimen) (map[string][]bench.Reading, error) {
	if err := t.beginToSee(); err != nil {
		return nil, err
	}
	out, runOf, missing := map[string][]bench.Reading{}, map[string]string{}, []string{}
	for run, of := range specimens {
		readings, known := t.keptReadings(run, of)
		if known {
			out[run] = readings
			continue
		}
		missing = append(missing, run)
		for _, s := range of {
			runOf[s.ID] = run
		}
	}
	if len(missing) == 0 {
		return out, nil
	}
	rows, err := t.q.ReadingsOfRuns(t.ctx, missing)
	if err != nil {
		return nil, read("readings", "of runs", err)
	}
	for _, r := range rows {
		run := runOf[r.SpecimenID]
		out[run] = append(out[run], bench.Reading(r))
	}
	for _, run := range missing {
		// Sorted here: SQLite would carry every column of all of them through its sorter.
		slices.SortStableFunc(out[run], func(a, b bench.Reading) int { return cmp.Compare(a.RecordedMS, b.RecordedMS) })
		if t.kept != nil {
			t.kept.keepReadings(run, specimens[run], out[run], t.began)
		}
	}
	return out, nil
}

func (t *Tx) keptReadings(run string, specimens []bench.Specimen) ([]bench.Reading, bool) {
	if t.kept == nil {
		return nil, false
	}
	return t.kept.readingsOf(run, specimens, t.began)
}

// LastRunOfMachine is the run that started last on a machine, or
// bench.ErrNotFound.
func (t *Tx) LastRunOfMachine(machineID string) (bench.Run, error) {
	row, err := t.q.LastRunOfMachine(t.ctx, machineID)
	return bench.Run(row), read("last run of machine", machineID, err)
}

// Settings reads the reviewer's own figures.
func (t *Tx) Settings() (bench.Settings, error) {
	row, err := t.q.BenchByID(t.ctx, 1)
	return bench.Settings(row), read("settings", "1", err)
}

// SaveSettings writes the reviewer's own figures.
func (t *Tx) SaveSettings(v bench.Settings) error {
	return saved("settings", t.q.SaveBench(t.ctx, db.SaveBenchParams(v)))
}
