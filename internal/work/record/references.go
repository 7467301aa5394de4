package record

import (
	"fmt"
	"reflect"
	"strings"

	"ojime/internal/core/quantity"
	"ojime/internal/work/task"
)

// identities are the ids of each list of an imported record.
type identities map[string]map[string]bool

// targets says which list a reference points into, by the name of its field.
var targets = map[string]string{
	"machine_id": "machines", "against_id": "machines", "machine_event_id": "events", "resin_id": "resins", "bottle_id": "bottles", "profile_id": "profiles", "piece_id": "pieces", "series_id": "series",
	"run_id": "runs", "specimen_id": "specimens", "feature_id": "features", "instrument_id": "instruments", "cell_id": "cells", "plate_id": "plates",
	"bath_id": "baths", "device_id": "devices", "machine_ids": "machines", "resin_ids": "resins", "piece_ids": "pieces",
	"review_id": "reviews", "panel_id": "panels", "review_plan_id": "review_plans", "parent_id": "profiles",
	"reference_id": "references", "reference_ids": "references", "sitting_id": "sittings", "photograph_id": "photographs", "study_id": "gauge_studies", "stress_series_id": "stress_series", "form_id": "forms", "corrects_id": itsOwn, "again_of_id": itsOwn,
}

// itsOwn is the list that the entry stands in itself.
const itsOwn = ""

// mayBeEmpty are references that are texts and may stand empty.
var mayBeEmpty = map[string]bool{"piece_id": true}

// of notes the ids of a list: each has one, none twice, codes neither; and each
// entry keeps its own rules.
func (k identities) of(name string, list any) func() error {
	return func() error {
		entries := reflect.ValueOf(list)
		ids, codes := make(map[string]bool, entries.Len()), map[string]bool{}
		k[name] = ids
		for i := range entries.Len() {
			e, at := entries.Index(i), fmt.Sprintf("%s[%d].", name, i)
			id := e.FieldByName("ID").String()
			if id == "" || ids[id] {
				return quantity.Errorf(at+"id", "is %.40q, which is empty or stands twice; the file was changed or damaged", id)
			}
			ids[id] = true
			if code := e.FieldByName("Code"); code.IsValid() {
				if codes[code.String()] {
					return quantity.Errorf(at+"code", "is %.40q, which stands twice; the file was changed or damaged", code.String())
				}
				codes[code.String()] = true
			}
			if ruled, ok := e.Interface().(interface{ Check() error }); ok {
				if err := ruled.Check(); err != nil {
					return task.WithPrefix(at, err)
				}
			}
		}
		return nil
	}
}

// refers holds every reference of a list against the ids there are.
func refers[E any](known identities, name string, list []E) func() error {
	return func() error {
		fields := references(reflect.TypeFor[E]())
		for i := range list {
			e := reflect.ValueOf(&list[i]).Elem()
			for _, f := range fields {
				if f.target == itsOwn {
					f.target = name
				}
				if wrong := f.wrong(e, known); wrong != "" {
					return quantity.Errorf(fmt.Sprintf("%s[%d].%s", name, i, f.name), "names %.40q, which is not among the %s", wrong, strings.ReplaceAll(f.target, "_", " "))
				}
			}
		}
		return nil
	}
}

// reference is a field that names entries of another list.
type reference struct {
	index        int
	name, target string
}

func references(t reflect.Type) (out []reference) {
	for i := range t.NumField() {
		name, _, _ := strings.Cut(t.Field(i).Tag.Get("json"), ",")
		if target, refers := targets[name]; refers {
			out = append(out, reference{i, name, target})
		}
	}
	return out
}

// wrong is the first id that points nowhere, empty where all are there.
func (r reference) wrong(entry reflect.Value, known identities) string {
	v := entry.Field(r.index)
	if v.Kind() == reflect.Pointer {
		if v.IsNil() {
			return ""
		}
		v = v.Elem()
	}
	ids := []string{}
	if v.Kind() == reflect.Slice {
		for i := range v.Len() {
			ids = append(ids, v.Index(i).String())
		}
	} else if v.String() != "" || !mayBeEmpty[r.name] {
		ids = append(ids, v.String())
	}
	for _, id := range ids {
		if !known[r.target][id] {
			if id == "" {
				return "nothing"
			}
			return id
		}
	}
	return ""
}
