package work

import (
	"context"
	"fmt"

	"ojime/internal/bench"
	"ojime/internal/core/mesh"
	"ojime/internal/core/quantity"
	"ojime/internal/store"
)

// RecordFormat names the layout of an exported record.
const RecordFormat = "ojime-record-1"

// Record is the whole record as one document. Meshes are by content hash.
type Record struct {
	Format       string               `json:"format"`
	Settings     bench.Settings       `json:"settings"`
	Machines     []bench.Machine      `json:"machines"`
	Events       []bench.MachineEvent `json:"events"`
	Resins       []bench.Resin        `json:"resins"`
	Bottles      []bench.Bottle       `json:"bottles"`
	Instruments  []bench.Instrument   `json:"instruments"`
	Pieces       []bench.Piece        `json:"pieces"`
	Features     []bench.Feature      `json:"features"`
	Reviews      []bench.Review       `json:"reviews"`
	Profiles     []bench.Profile      `json:"profiles"`
	Series       []bench.Series       `json:"series"`
	Cells        []bench.Cell         `json:"cells"`
	CellReadings []bench.CellReading  `json:"cell_readings"`
	Plates       []bench.Plate        `json:"plates" required:"false"`
	Placements   []bench.Placement    `json:"placements" required:"false"`
	Runs         []bench.Run          `json:"runs"`
	RunEvents    []bench.RunEvent     `json:"run_events" required:"false"`
	Preflights   []bench.Preflight    `json:"preflights" required:"false"`
	Remedies     []bench.Remedy       `json:"remedies" required:"false"`
	Baths        []bench.Bath         `json:"baths" required:"false"`
	Steps        []bench.ProcessStep  `json:"steps" required:"false"`
	Waste        []bench.Waste        `json:"waste" required:"false"`
	BottleEvents []bench.BottleEvent  `json:"bottle_events" required:"false"`
	Reminders    []bench.Reminder     `json:"reminders" required:"false"`
	Specimens    []bench.Specimen     `json:"specimens"`
	Readings     []bench.Reading      `json:"readings"`
	Meshes       map[string][]byte    `json:"meshes"`
}

// loader reads one kind of entry into its list.
func load[E any](into *[]E, list func() ([]E, error)) func() error {
	return func() (err error) {
		*into, err = list()
		return err
	}
}

// Export reads the whole record.
func (w *Work) Export(ctx context.Context) (Record, error) {
	out := Record{Format: RecordFormat, Meshes: map[string][]byte{}}
	err := w.store.Read(ctx, func(t *store.Tx) (err error) {
		if out.Settings, err = t.Settings(); err != nil {
			return err
		}
		for _, step := range []func() error{
			load(&out.Machines, t.Machines), load(&out.Events, t.MachineEvents), load(&out.Resins, t.Resins), load(&out.Bottles, t.Bottles),
			load(&out.Instruments, t.Instruments), load(&out.Pieces, t.Pieces), load(&out.Features, t.Features), load(&out.Reviews, t.Reviews),
			load(&out.Profiles, t.Profiles), load(&out.Series, t.AllSeries), load(&out.Cells, t.Cells), load(&out.CellReadings, t.CellReadings),
			load(&out.Plates, t.Plates), load(&out.Placements, t.Placements), load(&out.Runs, t.Runs),
			load(&out.RunEvents, t.RunEvents), load(&out.Preflights, t.Preflights), load(&out.Remedies, t.Remedies),
			load(&out.Baths, t.Baths), load(&out.Steps, t.Steps), load(&out.Waste, t.Waste), load(&out.BottleEvents, t.BottleEvents), load(&out.Reminders, t.Reminders),
			load(&out.Specimens, t.Specimens), load(&out.Readings, t.Readings),
		} {
			if err := step(); err != nil {
				return err
			}
		}
		return nil
	})
	if err != nil {
		return out, err
	}
	for _, p := range out.Pieces {
		if out.Meshes[p.MeshSHA256], err = w.store.Mesh(p.MeshSHA256); err != nil {
			return out, err
		}
	}
	return out, nil
}

// Imported counts what an import brought in.
type Imported struct {
	Machines int64 `json:"machines"`
	Pieces   int64 `json:"pieces"`
	Runs     int64 `json:"runs"`
	Readings int64 `json:"readings"`
	Reviews  int64 `json:"reviews"`
}

// Import fills an empty record from an exported one, all or nothing. A record
// that already holds something is refused: merging two is not offered.
func (w *Work) Import(ctx context.Context, r Record) (Imported, error) {
	if r.Format != RecordFormat {
		return Imported{}, quantity.Errorf("format", "is %q; this program reads %q", r.Format, RecordFormat)
	}
	for _, p := range r.Pieces {
		data, there := r.Meshes[p.MeshSHA256]
		if !there {
			return Imported{}, quantity.Errorf("meshes", "lack the mesh of %s; export the record again", p.Name)
		}
		if _, err := mesh.Read(data); err != nil {
			return Imported{}, fmt.Errorf("mesh of %s: %w", p.Name, err)
		}
		if err := w.store.SaveMesh(p.MeshSHA256, data); err != nil {
			return Imported{}, err
		}
	}
	r.complete()
	err := w.store.Write(ctx, func(t *store.Tx) error {
		if err := isEmpty(t); err != nil {
			return err
		}
		return r.write(t)
	})
	return Imported{Machines: int64(len(r.Machines)), Pieces: int64(len(r.Pieces)), Runs: int64(len(r.Runs)),
		Readings: int64(len(r.Readings)), Reviews: int64(len(r.Reviews))}, err
}

// complete fills in what records exported before it existed do not hold.
func (r *Record) complete() {
	for i := range r.Machines {
		if r.Machines[i].CellExposure == "" {
			r.Machines[i].CellExposure = bench.CellsAlike
		}
	}
	if r.Settings.ViewingMM == 0 {
		version, known := r.Settings.Version, r.Settings
		r.Settings = bench.UsualSettings
		r.Settings.ID, r.Settings.Version = known.ID, version
		r.Settings.Currency, r.Settings.EnergyPerKWh, r.Settings.LabourPerH, r.Settings.WastePct = known.Currency, known.EnergyPerKWh, known.LabourPerH, known.WastePct
	}
}

func isEmpty(t *store.Tx) error {
	for _, table := range []string{"machine", "resin", "piece", "review", "instrument"} {
		next, err := t.NextNumber(table)
		if err != nil {
			return err
		}
		if next > 1 {
			return fmt.Errorf("the record already holds entries; start with an empty data folder to import: %w", bench.ErrConflict)
		}
	}
	return nil
}

// write inserts everything; references are checked when all is in, since
// series and profiles refer to each other.
func (r Record) write(t *store.Tx) error {
	if err := t.DeferReferences(); err != nil {
		return err
	}
	for _, step := range []func() error{
		func() error { return t.SaveSettings(r.Settings) },
		each(r.Machines, t.SaveMachine), each(r.Events, t.SaveMachineEvent), each(r.Resins, t.SaveResin), each(r.Bottles, t.SaveBottle),
		each(r.Instruments, t.SaveInstrument), each(r.Pieces, t.SavePiece), each(r.Features, t.SaveFeature), each(r.Reviews, t.SaveReview),
		each(r.Series, t.SaveSeries), each(r.Profiles, t.SaveProfile), each(r.Cells, t.SaveCell),
		each(r.CellReadings, t.SaveCellReading), each(r.Plates, t.SavePlate), each(r.Placements, t.SavePlacement), each(r.Runs, t.SaveRun),
		each(r.RunEvents, t.SaveRunEvent), each(r.Preflights, t.SavePreflight), each(r.Remedies, t.SaveRemedy),
		each(r.Baths, t.SaveBath), each(r.Steps, t.SaveStep), each(r.Waste, t.SaveWaste), each(r.BottleEvents, t.SaveBottleEvent), each(r.Reminders, t.SaveReminder),
		each(r.Specimens, t.SaveSpecimen), each(r.Readings, t.SaveReading),
	} {
		if err := step(); err != nil {
			return err
		}
	}
	return nil
}

func each[E any](list []E, put func(E) error) func() error {
	return func() error {
		for _, e := range list {
			if err := put(e); err != nil {
				return err
			}
		}
		return nil
	}
}
