package record

import (
	"cmp"
	"context"
	"crypto/sha256"
	"encoding/hex"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"slices"

	"ojime/internal/bench"
	"ojime/internal/core/mesh"
	"ojime/internal/core/quantity"
	"ojime/internal/store"
	"ojime/internal/work/kit"
	"ojime/internal/work/photographs"
	"ojime/internal/work/task"
)

// Import fills an empty record from an exported one, all or nothing. Everything is
// verified before anything is written: bounds, rules, ids, references and the hash
// of each mesh. A record that already holds something is refused: merging two is
// not offered.
func (w *Tasks) Import(ctx context.Context, from io.Reader) (out Imported, err error) {
	if err := w.Store.Read(ctx, isEmpty); err != nil {
		return out, err
	}
	meshes, err := w.Store.Meshes().Stage()
	if err != nil {
		return out, err
	}
	defer func() { err = errors.Join(err, meshes.Drop()) }()
	pictures, err := w.Store.Photographs().Stage()
	if err != nil {
		return out, err
	}
	defer func() { err = errors.Join(err, pictures.Drop()) }()
	files := staged{meshes, pictures}
	if err := w.Heavy.Enter(ctx, nil, task.MostHeavy); err != nil {
		return out, err
	}
	r, err := readRecord(from, files, w.NewID)
	w.Heavy.Places.Release(task.MostHeavy)
	if err != nil {
		return out, err
	}
	r.complete()
	if err := r.verify(files); err != nil {
		return out, err
	}
	for i := range r.Devices {
		if _, r.Devices[i].TokenSHA256, err = w.Feed.NewToken(); err != nil {
			return out, err
		}
	}
	if err := errors.Join(meshes.Keep(), pictures.Keep()); err != nil {
		return out, err
	}
	out = Imported{Machines: int64(len(r.Machines)), Pieces: int64(len(r.Pieces)), Runs: int64(len(r.Runs)),
		Readings: int64(len(r.Readings)), Reviews: int64(len(r.Reviews))}
	err = w.Write(ctx, &out, func(t *store.Tx) error {
		if err := isEmpty(t); err != nil {
			return err
		}
		return r.write(t)
	})
	return out, err
}

// staged are the files of an import that is not verified yet.
type staged struct{ meshes, pictures *store.Staged }

// readRecord reads a document field by field and entry by entry; files are put aside as
// they come.
func readRecord(from io.Reader, files staged, newID func() (string, error)) (Record, error) {
	r := Record{Settings: bench.Settings{VatChangeMin: bench.UsualSettings.VatChangeMin}} // older files say nothing of it
	var o older
	dec := json.NewDecoder(from)
	if err := opens(dec, '{', "body"); err != nil {
		return r, err
	}
	into, inOlder := r.fields(dec, files), o.fields(dec)
	for dec.More() {
		token, err := dec.Token()
		if err != nil {
			return r, notJSON("body", err)
		}
		name, _ := token.(string)
		read, known := into[name]
		if r.Format == olderFormat && inOlder[name] != nil { // the format stands first
			read = inOlder[name]
		}
		if !known {
			return r, quantity.Errorf("body", "holds %.40q, which no record has; is it a file of this program?", name)
		}
		if err := read(); err != nil {
			return r, err
		}
	}
	if _, err := dec.Token(); err != nil {
		return r, notJSON("body", err)
	}
	switch r.Format {
	case RecordFormat:
		return r, nil
	case olderFormat:
		return r, o.carryOver(&r, newID)
	}
	return r, quantity.Errorf("format", "is %.40q; this program reads %q and %q", r.Format, RecordFormat, olderFormat)
}

func (r *Record) fields(dec *json.Decoder, files staged) map[string]func() error {
	return map[string]func() error{
		"format": value(dec, "format", &r.Format), "settings": value(dec, "settings", &r.Settings),
		"machines": entriesOf(dec, "machines", &r.Machines), "events": entriesOf(dec, "events", &r.Events), "resins": entriesOf(dec, "resins", &r.Resins),
		"bottles": entriesOf(dec, "bottles", &r.Bottles), "instruments": entriesOf(dec, "instruments", &r.Instruments), "instrument_checks": entriesOf(dec, "instrument_checks", &r.InstrumentChecks), "gauge_studies": entriesOf(dec, "gauge_studies", &r.GaugeStudies), "gauge_readings": entriesOf(dec, "gauge_readings", &r.GaugeReadings),
		"pieces":   entriesOf(dec, "pieces", &r.Pieces),
		"features": r.featuresOf(dec), "reviews": entriesOf(dec, "reviews", &r.Reviews), "profiles": entriesOf(dec, "profiles", &r.Profiles),
		"series": entriesOf(dec, "series", &r.Series), "cells": entriesOf(dec, "cells", &r.Cells), "cell_readings": entriesOf(dec, "cell_readings", &r.CellReadings),
		"review_plans": entriesOf(dec, "review_plans", &r.ReviewPlans), "plates": entriesOf(dec, "plates", &r.Plates), "placements": entriesOf(dec, "placements", &r.Placements), "runs": entriesOf(dec, "runs", &r.Runs),
		"run_events": entriesOf(dec, "run_events", &r.RunEvents), "preflights": entriesOf(dec, "preflights", &r.Preflights), "remedies": entriesOf(dec, "remedies", &r.Remedies),
		"baths": entriesOf(dec, "baths", &r.Baths), "steps": entriesOf(dec, "steps", &r.Steps), "waste": entriesOf(dec, "waste", &r.Waste),
		"bottle_events": entriesOf(dec, "bottle_events", &r.BottleEvents), "reminders": entriesOf(dec, "reminders", &r.Reminders),
		"references": entriesOf(dec, "references", &r.References), "reference_readings": entriesOf(dec, "reference_readings", &r.ReferenceReadings),
		"rating_scales": scalesOf(dec, &r.RatingScales), "sittings": entriesOf(dec, "sittings", &r.Sittings), "ratings": entriesOf(dec, "ratings", &r.Ratings),
		"assemblies": entriesOf(dec, "assemblies", &r.Assemblies), "amendments": entriesOf(dec, "amendments", &r.Amendments),
		"specimens": entriesOf(dec, "specimens", &r.Specimens), "readings": entriesOf(dec, "readings", &r.Readings),
		"devices": entriesOf(dec, "devices", &r.Devices), "device_sessions": entriesOf(dec, "device_sessions", &r.Sessions),
		"run_feeds": entriesOf(dec, "run_feeds", &r.Feeds), "device_messages": entriesOf(dec, "device_messages", &r.Messages),
		"missing_meshes": entriesOf(dec, "missing_meshes", &r.MissingMeshes),
		"photographs":    entriesOf(dec, "photographs", &r.Photographs), "photo_measures": entriesOf(dec, "photo_measures", &r.PhotoMeasures),
		"forms": entriesOf(dec, "forms", &r.Forms), "form_readings": entriesOf(dec, "form_readings", &r.FormReadings),
		"specimen_stages": entriesOf(dec, "specimen_stages", &r.Stages), "machine_ratings": entriesOf(dec, "machine_ratings", &r.MachineRatings), "plate_surveys": entriesOf(dec, "plate_surveys", &r.PlateSurveys), "light_grids": entriesOf(dec, "light_grids", &r.LightGrids), "sliced_files": entriesOf(dec, "sliced_files", &r.SlicedFiles), "unit_files": entriesOf(dec, "unit_files", &r.UnitFiles), "levellings": entriesOf(dec, "levellings", &r.Levellings), "software_steps": entriesOf(dec, "software_steps", &r.SoftwareSteps), "room_readings": entriesOf(dec, "room_readings", &r.RoomReadings), "remarks": entriesOf(dec, "remarks", &r.Remarks), "workrooms": entriesOf(dec, "workrooms", &r.Workrooms), "checklists": entriesOf(dec, "checklists", &r.Checklists), "unit_photographs": entriesOf(dec, "unit_photographs", &r.UnitPhotographs), "panels": entriesOf(dec, "panels", &r.Panels), "panel_seals": entriesOf(dec, "panel_seals", &r.PanelSeals), "ballots": entriesOf(dec, "ballots", &r.Ballots), "findings": entriesOf(dec, "findings", &r.Findings), "claims": entriesOf(dec, "claims", &r.Claims), "interests": entriesOf(dec, "interests", &r.Interests), "readers": entriesOf(dec, "readers", &r.Readers), "prices": entriesOf(dec, "prices", &r.Prices), "equipment": entriesOf(dec, "equipment", &r.Equipment), "budgets": entriesOf(dec, "budgets", &r.Budgets), "publications": entriesOf(dec, "publications", &r.Publications), "follow_ups": entriesOf(dec, "follow_ups", &r.FollowUps), "resin_weighings": entriesOf(dec, "resin_weighings", &r.ResinWeighings),
		"stress_series": entriesOf(dec, "stress_series", &r.StressSeries), "stress_specimens": entriesOf(dec, "stress_specimens", &r.StressSpecimens), "stress_tests": entriesOf(dec, "stress_tests", &r.StressTests),
		"missing_pictures": entriesOf(dec, "missing_pictures", &r.MissingPictures),
		"meshes": func() error {
			return readFiles(dec, "meshes", files.meshes, func(data []byte) error { _, err := mesh.Read(data); return err })
		},
		"pictures": func() error { return readFiles(dec, "pictures", files.pictures, photographs.CheckCopy) },
	}
}

// sidedFeature is a feature of this file's time or of an earlier one.
type sidedFeature struct {
	bench.Feature
	Side *string `json:"side"`
}

// featuresOf reads features, of which earlier files call the face a side.
func (r *Record) featuresOf(dec *json.Decoder) func() error {
	return func() error {
		var read []sidedFeature
		check := func(at string, f sidedFeature) error { return within(at, f.Feature) }
		if err := readEntries(dec, "features", &read, check)(); err != nil {
			return err
		}
		r.Features = nil
		for _, f := range read {
			if f.Face == nil {
				f.Face = f.Side
			}
			r.Features = append(r.Features, f.Feature)
		}
		return nil
	}
}

// ErrTooLarge is what a reader gives whose record is larger than is taken.
var ErrTooLarge = errors.New("the record is too large")

func notJSON(path string, err error) error {
	if errors.Is(err, ErrTooLarge) {
		return quantity.Errorf(path, "goes on beyond what is read at once; move a record of this size by backup and restore")
	}
	return quantity.Errorf(path, "is not what an exported record holds there (%v); export it again", err)
}

func opens(dec *json.Decoder, bracket json.Delim, path string) error {
	token, err := dec.Token()
	if err != nil {
		return notJSON(path, err)
	}
	if token != bracket {
		return quantity.Errorf(path, "does not begin with %s; is it a file of this program?", bracket)
	}
	return nil
}

func value[V any](dec *json.Decoder, name string, into *V) func() error {
	return func() error {
		if err := dec.Decode(into); err != nil {
			return notJSON(name, err)
		}
		return nil
	}
}

// entriesOf reads a list, holding each entry against its bounds as it comes.
func entriesOf[E any](dec *json.Decoder, name string, into *[]E) func() error {
	return readEntries(dec, name, into, within[E])
}

// scalesOf reads scales of one's own. Before machines had any, none said what it was of.
func scalesOf(dec *json.Decoder, into *[]bench.OwnScale) func() error {
	read := laterChecked(dec, "rating_scales", into)
	return func() error {
		if err := read(); err != nil {
			return err
		}
		for i := range *into {
			s := &(*into)[i]
			s.About = cmp.Or(s.About, bench.ScaleOfSpecimens)
			if err := within(fmt.Sprintf("rating_scales[%d]", i), *s); err != nil {
				return err
			}
		}
		return nil
	}
}

// within holds an entry against its bounds.
func within[E any](at string, e E) error {
	if beyond := bench.Beyond(e); len(beyond) > 0 {
		return quantity.Errorf(at+"."+beyond[0].Path, "%s", beyond[0].Message)
	}
	return nil
}

func readEntries[E any](dec *json.Decoder, name string, into *[]E, check func(at string, e E) error) func() error {
	return func() error {
		*into = nil
		if err := opens(dec, '[', name); err != nil {
			return err
		}
		for dec.More() {
			var e E
			at := fmt.Sprintf("%s[%d]", name, len(*into))
			if err := dec.Decode(&e); err != nil {
				return notJSON(at, err)
			}
			if err := check(at, e); err != nil {
				return err
			}
			*into = append(*into, e)
		}
		if _, err := dec.Token(); err != nil {
			return notJSON(name, err)
		}
		return nil
	}
}

// readFiles puts each file aside once it is known to be what its name says.
func readFiles(dec *json.Decoder, field string, staged *store.Staged, check func([]byte) error) error {
	if err := opens(dec, '{', field); err != nil {
		return err
	}
	for dec.More() {
		token, err := dec.Token()
		if err != nil {
			return notJSON(field, err)
		}
		name, _ := token.(string)
		at := fmt.Sprintf("%s.%.64s", field, name)
		var data []byte
		if err := dec.Decode(&data); err != nil {
			return notJSON(at, err)
		}
		if sum := sha256.Sum256(data); hex.EncodeToString(sum[:]) != name {
			return quantity.Errorf(at, "is not the file that its name says; the record was changed or damaged")
		}
		if err := check(data); err != nil {
			return quantity.Errorf(at, "%v", err)
		}
		if err := staged.Add(name, data); err != nil {
			return err
		}
	}
	if _, err := dec.Token(); err != nil {
		return notJSON(field, err)
	}
	return nil
}

// verify holds all of a record against the rules, ids and references of one.
func (r *Record) verify(files staged) error {
	known := identities{}
	for _, step := range []func() error{
		known.of("machines", r.Machines), known.of("events", r.Events), known.of("resins", r.Resins), known.of("bottles", r.Bottles),
		known.of("instruments", r.Instruments), known.of("instrument_checks", r.InstrumentChecks), known.of("gauge_studies", r.GaugeStudies), known.of("gauge_readings", r.GaugeReadings),
		known.of("pieces", r.Pieces), known.of("features", r.Features), known.of("reviews", r.Reviews),
		known.of("profiles", r.Profiles), known.of("series", r.Series), known.of("cells", r.Cells), known.of("cell_readings", r.CellReadings),
		known.of("review_plans", r.ReviewPlans), known.of("plates", r.Plates), known.of("placements", r.Placements), known.of("runs", r.Runs), known.of("run_events", r.RunEvents),
		known.of("preflights", r.Preflights), known.of("remedies", r.Remedies), known.of("baths", r.Baths), known.of("steps", r.Steps),
		known.of("waste", r.Waste), known.of("bottle_events", r.BottleEvents), known.of("reminders", r.Reminders),
		known.of("specimens", r.Specimens), known.of("readings", r.Readings), known.of("devices", r.Devices),
		known.of("assemblies", r.Assemblies), known.of("references", r.References), known.of("reference_readings", r.ReferenceReadings), known.of("amendments", r.Amendments),
		known.of("rating_scales", r.RatingScales), known.of("sittings", r.Sittings), known.of("ratings", r.Ratings), known.of("photographs", r.Photographs), known.of("photo_measures", r.PhotoMeasures),
		known.of("machine_ratings", r.MachineRatings), known.of("plate_surveys", r.PlateSurveys), known.of("light_grids", r.LightGrids), known.of("sliced_files", r.SlicedFiles), known.of("unit_files", r.UnitFiles), known.of("levellings", r.Levellings), known.of("software_steps", r.SoftwareSteps), known.of("room_readings", r.RoomReadings), known.of("remarks", r.Remarks), known.of("workrooms", r.Workrooms), known.of("checklists", r.Checklists), known.of("unit_photographs", r.UnitPhotographs), known.of("panels", r.Panels), known.of("ballots", r.Ballots), known.of("findings", r.Findings), known.of("claims", r.Claims), known.of("interests", r.Interests), known.of("readers", r.Readers), known.of("prices", r.Prices), known.of("equipment", r.Equipment), known.of("budgets", r.Budgets), known.of("publications", r.Publications), known.of("follow_ups", r.FollowUps), known.of("forms", r.Forms), known.of("form_readings", r.FormReadings), known.of("specimen_stages", r.Stages), known.of("resin_weighings", r.ResinWeighings), known.of("stress_series", r.StressSeries), known.of("stress_specimens", r.StressSpecimens), known.of("stress_tests", r.StressTests),
		func() error { return r.Settings.Check() },
		refers(known, "events", r.Events), refers(known, "instrument_checks", r.InstrumentChecks), refers(known, "gauge_studies", r.GaugeStudies), refers(known, "gauge_readings", r.GaugeReadings), refers(known, "bottles", r.Bottles), refers(known, "features", r.Features), refers(known, "reviews", r.Reviews),
		refers(known, "profiles", r.Profiles), refers(known, "series", r.Series), refers(known, "cells", r.Cells), refers(known, "cell_readings", r.CellReadings),
		refers(known, "review_plans", r.ReviewPlans), refers(known, "plates", r.Plates), refers(known, "placements", r.Placements), refers(known, "runs", r.Runs), refers(known, "run_events", r.RunEvents),
		refers(known, "preflights", r.Preflights), refers(known, "remedies", r.Remedies), refers(known, "steps", r.Steps), refers(known, "waste", r.Waste),
		refers(known, "bottle_events", r.BottleEvents), refers(known, "reminders", r.Reminders), refers(known, "specimens", r.Specimens),
		refers(known, "readings", r.Readings), refers(known, "references", r.References), refers(known, "reference_readings", r.ReferenceReadings), refers(known, "devices", r.Devices), r.partsExist(known), r.leftOutExist(known), r.setUpsExist(known), refers(known, "device_sessions", r.Sessions),
		refers(known, "run_feeds", r.Feeds), refers(known, "device_messages", r.Messages), refers(known, "ratings", r.Ratings), refers(known, "photographs", r.Photographs), refers(known, "photo_measures", r.PhotoMeasures), refers(known, "machine_ratings", r.MachineRatings), refers(known, "plate_surveys", r.PlateSurveys), refers(known, "light_grids", r.LightGrids), refers(known, "sliced_files", r.SlicedFiles), refers(known, "unit_files", r.UnitFiles), refers(known, "levellings", r.Levellings), refers(known, "software_steps", r.SoftwareSteps), refers(known, "room_readings", r.RoomReadings), refers(known, "remarks", r.Remarks), refers(known, "unit_photographs", r.UnitPhotographs), refers(known, "panels", r.Panels), refers(known, "panel_seals", r.PanelSeals), refers(known, "ballots", r.Ballots), refers(known, "findings", r.Findings), refers(known, "claims", r.Claims), refers(known, "interests", r.Interests), refers(known, "readers", r.Readers), refers(known, "prices", r.Prices), refers(known, "equipment", r.Equipment), refers(known, "budgets", r.Budgets), refers(known, "publications", r.Publications), refers(known, "follow_ups", r.FollowUps), r.blocksFit(known), r.budgetsFit(known), r.panelsFit(known), r.findingsFit(known), r.namesOnce(), r.stepsCheck(), r.levelsCheck(), r.unitsCheck(), r.lightReads(), r.slicedCheck(), r.surveysFit(), refers(known, "forms", r.Forms), refers(known, "form_readings", r.FormReadings), refers(known, "specimen_stages", r.Stages), refers(known, "resin_weighings", r.ResinWeighings), refers(known, "stress_specimens", r.StressSpecimens), refers(known, "stress_tests", r.StressTests), r.scalesExist(), r.copiesRead(), r.defectsShown(),
	} {
		if err := step(); err != nil {
			return err
		}
	}
	for i, p := range r.Pieces {
		if !files.meshes.Holds(p.MeshSHA256) && !slices.Contains(r.MissingMeshes, p.MeshSHA256) {
			return quantity.Errorf(fmt.Sprintf("pieces[%d].mesh_sha256", i), "names a mesh that the file lacks; export the record again")
		}
	}
	for i, p := range r.Photographs {
		if err := r.picturesThere(files.pictures, fmt.Sprintf("photographs[%d]", i), p.Pictures()); err != nil {
			return err
		}
	}
	for i, p := range r.UnitPhotographs {
		if err := r.picturesThere(files.pictures, fmt.Sprintf("unit_photographs[%d]", i), p.Pictures()); err != nil {
			return err
		}
	}
	for i, e := range r.Machines {
		if _, err := kit.CardOfMachine(e); err != nil {
			return task.WithPrefix(fmt.Sprintf("machines[%d].", i), err)
		}
	}
	for i, e := range r.Resins {
		if _, err := kit.CardOfResin(e); err != nil {
			return task.WithPrefix(fmt.Sprintf("resins[%d].", i), err)
		}
	}
	return nil
}
