package record

import (
	"bufio"
	"context"
	"encoding/json"
	"errors"
	"io"
	"io/fs"
	"strings"

	"ojime/internal/bench"
	"ojime/internal/store"
)

// Export writes the whole record as one JSON document, list by list and file by
// file, so that a large one needs little memory. All but the files is of one instant.
func (w *Tasks) Export(ctx context.Context, to io.Writer) error {
	out := &document{w: bufio.NewWriterSize(to, 1<<16)}
	var meshes, pictures []string
	err := w.Store.Read(ctx, func(t *store.Tx) error {
		settings, err := t.Settings()
		if err != nil {
			return err
		}
		if meshes, pictures, err = filesOf(t); err != nil {
			return err
		}
		out.field("format", RecordFormat)
		out.field("settings", settings)
		for _, l := range lists(t) {
			if err := l(out); err != nil {
				return err
			}
		}
		return errors.Join(messages(t, out), out.err)
	})
	if err != nil {
		return err
	}
	if err := exportFiles(out, "meshes", w.Store.Meshes(), meshes); err != nil {
		return err
	}
	if err := exportFiles(out, "pictures", w.Store.Photographs(), pictures); err != nil {
		return err
	}
	return out.end()
}

// lists are those of a record in the order in which they refer to each other.
func lists(t *store.Tx) []func(*document) error {
	return []func(*document) error{
		listed("machines", t.Machines), listed("events", t.MachineEvents), listed("resins", t.Resins), listed("bottles", t.Bottles),
		listed("instruments", t.Instruments), listed("instrument_checks", t.InstrumentChecks), listed("gauge_studies", t.GaugeStudies), listed("gauge_readings", t.GaugeReadings), listed("pieces", t.Pieces), listed("features", t.Features), listed("reviews", t.Reviews),
		listed("profiles", t.Profiles), listed("series", t.AllSeries), listed("cells", t.Cells), listed("cell_readings", t.CellReadings),
		listed("review_plans", t.ReviewPlans), listed("plates", t.Plates), listed("placements", t.Placements), listed("runs", t.Runs),
		listed("run_events", t.RunEvents), listed("preflights", t.Preflights), listed("remedies", t.Remedies),
		listed("baths", t.Baths), listed("steps", t.Steps), listed("waste", t.Waste), listed("bottle_events", t.BottleEvents), listed("reminders", t.Reminders),
		listed("specimens", t.Specimens), listed("readings", t.Readings),
		listed("assemblies", t.Assemblies), listed("references", t.References), listed("reference_readings", t.ReferenceReadings), listed("rating_scales", t.RatingScales), listed("sittings", t.Sittings), listed("ratings", t.Ratings), listed("photographs", t.Photographs), listed("photo_measures", t.PhotoMeasures),
		listed("machine_ratings", t.MachineRatings), listed("plate_surveys", t.PlateSurveys), listed("light_grids", t.LightGrids), listed("sliced_files", t.SlicedFiles), listed("unit_files", t.UnitFiles), listed("levellings", t.Levellings), listed("software_steps", t.SoftwareSteps), listed("room_readings", t.RoomReadings), listed("remarks", t.Remarks), listed("workrooms", t.Workrooms), listed("checklists", t.Checklists), listed("unit_photographs", t.UnitPhotographs), listed("panels", t.Panels), listed("panel_seals", func() ([]bench.PanelSeal, error) { return sealsToExport(t) }), listed("ballots", t.Ballots), listed("findings", t.Findings), listed("claims", t.Claims), listed("interests", t.Interests), listed("readers", t.Readers), listed("prices", t.Prices), listed("equipment", t.Equipments), listed("budgets", t.Budgets), listed("publications", t.Publications), listed("follow_ups", t.FollowUps), listed("forms", t.Forms), listed("form_readings", t.FormReadings), listed("specimen_stages", t.SpecimenStages), listed("resin_weighings", t.ResinWeighings), listed("stress_series", t.AllStressSeries), listed("stress_specimens", t.StressSpecimens), listed("stress_tests", t.StressTests), listed("amendments", t.Amendments),
		listed("devices", t.Devices), listed("device_sessions", t.DeviceSessions), listed("run_feeds", t.RunFeeds),
	}
}

// listed writes one list, entry by entry.
func listed[E any](name string, list func() ([]E, error)) func(*document) error {
	return func(d *document) error {
		entries, err := list()
		if err != nil {
			return err
		}
		d.begin(name, '[')
		for _, e := range entries {
			d.item(e)
		}
		d.text("]")
		return d.err
	}
}

// messagesAtOnce is how many messages of devices are read at a time: there may be
// millions.
const messagesAtOnce = 5000

func messages(t *store.Tx, d *document) error {
	d.begin("device_messages", '[')
	var last bench.DeviceMessage
	for {
		page, err := t.DeviceMessagesAfter(last, messagesAtOnce)
		if err != nil {
			return err
		}
		for _, m := range page {
			d.item(m)
		}
		if len(page) < messagesAtOnce {
			break
		}
		last = page[len(page)-1]
	}
	d.text("]")
	return d.err
}

// filesOf are the files that an exported record holds: the mesh of each piece, and of each
// photograph the copies without tags.
func filesOf(t *store.Tx) (meshes, pictures []string, err error) {
	pieces, err := t.Pieces()
	if err != nil {
		return nil, nil, err
	}
	for _, p := range pieces {
		meshes = append(meshes, p.MeshSHA256)
	}
	photographs, err := t.PictureFiles()
	for _, p := range photographs {
		if !p.Erased {
			pictures = append(pictures, p.CopySHA256, p.SmallSHA256)
		}
	}
	return meshes, pictures, err
}

// exportFiles writes each file once. One that is missing costs its own entry's picture, not
// the export.
func exportFiles(d *document, field string, files store.Files, names []string) error {
	missing, done := []string{}, map[string]bool{}
	d.begin(field, '{')
	for _, name := range names {
		if done[name] {
			continue
		}
		done[name] = true
		data, err := files.Read(name)
		if errors.Is(err, fs.ErrNotExist) {
			missing = append(missing, name)
			continue
		}
		if err != nil {
			return err
		}
		d.member(name, data)
	}
	d.text("}")
	d.field("missing_"+field, missing)
	return d.err
}

// document writes a JSON object piece by piece; the first error stays.
type document struct {
	w       *bufio.Writer
	err     error
	fields  int
	entries int
}

func (d *document) text(s string) {
	if d.err == nil {
		_, d.err = io.Copy(d.w, strings.NewReader(s))
	}
}

func (d *document) value(v any) {
	if d.err != nil {
		return
	}
	text, err := json.Marshal(v)
	if err != nil {
		d.err = err
		return
	}
	_, d.err = d.w.Write(text)
}

func (d *document) name(name string) {
	if d.fields == 0 {
		d.text("{")
	} else {
		d.text(",\n")
	}
	d.fields++
	d.value(name)
	d.text(":")
}

func (d *document) field(name string, v any) {
	d.name(name)
	d.value(v)
}

// begin opens a list or an object as a field.
func (d *document) begin(name string, bracket rune) {
	d.name(name)
	d.text(string(bracket))
	d.entries = 0
}

func (d *document) next() {
	if d.entries > 0 {
		d.text(",\n")
	}
	d.entries++
}

func (d *document) item(v any) {
	d.next()
	d.value(v)
}

func (d *document) member(name string, v any) {
	d.next()
	d.value(name)
	d.text(":")
	d.value(v)
}

func (d *document) end() error {
	d.text("}\n")
	if d.err != nil {
		return d.err
	}
	return d.w.Flush()
}
