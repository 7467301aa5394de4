package record

import (
	"encoding/json"
	"errors"
	"fmt"

	"ojime/internal/bench"
	"ojime/internal/core/quantity"
	"ojime/internal/say"
)

// olderFormat is the layout before pieces stood with their specimens and conditions
// were computed. What such a file holds is carried over as a record of that time is
// when it is opened.
const olderFormat = "ojime-record-1"

type olderRun struct {
	bench.Run
	PieceID         string   `json:"piece_id"`
	ScalePct        *float64 `json:"scale_pct"`
	FilmLayers      *float64 `json:"film_layers"`
	DaysSinceLevel  *float64 `json:"days_since_level"`
	MovedSinceLevel *bool    `json:"moved_since_level"`
}

type olderSpecimen struct {
	bench.Specimen
	PieceID    *string  `json:"piece_id"`
	Symptom    string   `json:"symptom"`
	Origin     string   `json:"origin"`
	Fault      string   `json:"fault"`
	Severity   string   `json:"severity"`
	BeganLayer *int64   `json:"began_layer"`
	BeganMM    *float64 `json:"began_mm"`
}

type olderEvent struct {
	bench.MachineEvent
	Kind string `json:"kind"`
}

// older holds the lists of an older file that were laid out otherwise.
type older struct {
	runs      []olderRun
	specimens []olderSpecimen
	events    []olderEvent
}

func (o *older) fields(dec *json.Decoder) map[string]func() error {
	return map[string]func() error{
		"runs": laterChecked(dec, "runs", &o.runs), "specimens": laterChecked(dec, "specimens", &o.specimens), "events": laterChecked(dec, "events", &o.events),
	}
}

// laterChecked reads entries that are held against their bounds once they are carried
// over: what they lack now stood elsewhere then.
func laterChecked[E any](dec *json.Decoder, name string, into *[]E) func() error {
	return readEntries(dec, name, into, func(string, E) error { return nil })
}

// carriedWithin holds what was carried over against the bounds of today.
func carriedWithin[E any](name string, list []E) error {
	for i, e := range list {
		if err := within(fmt.Sprintf("%s[%d]", name, i), e); err != nil {
			return err
		}
	}
	return nil
}

// carryOver puts an older file's lists into the record's, as its migration does.
func (o *older) carryOver(r *Record, newID func() (string, error)) error {
	for _, e := range o.events {
		e.Kinds, e.Version = bench.IDs{e.Kind}, 1
		r.Events = append(r.Events, e.MachineEvent)
	}
	if err := o.noteConditions(r, newID); err != nil {
		return err
	}
	run := map[string]olderRun{}
	for _, old := range o.runs {
		run[old.ID] = old
		now := old.Run
		now.Observed = old.noted()
		r.Runs = append(r.Runs, now)
	}
	for _, old := range o.specimens {
		now, of := old.Specimen, run[old.RunID]
		if now.PieceID = quantity.Or(old.PieceID, of.PieceID); now.PieceID == "" {
			now.PieceID = of.PieceID
		}
		now.ScalePct = quantity.Or(of.ScalePct, 100)
		if old.Symptom != "" && (now.Outcome == "lost" || now.Outcome == "micro_defect") {
			id, err := newID()
			if err != nil {
				return err
			}
			now.Defects = []bench.Defect{{ID: id, SpecimenID: now.ID, Symptom: old.Symptom, Severity: old.Severity, BeganLayer: old.BeganLayer, BeganMM: old.BeganMM,
				Origin: old.Origin, Fault: old.Fault, AtMS: of.CreatedMS}}
		}
		r.Specimens = append(r.Specimens, now)
	}
	machine := map[string]bench.Machine{}
	for _, m := range r.Machines {
		machine[m.ID] = m
	}
	for i := range r.Profiles {
		p := &r.Profiles[i]
		machine[p.MachineID].Usual(p)
		p.Version = 1
		if p.Basis == "sealed" && quantity.Or(p.BottomLayers, 0) == 0 {
			p.BottomLayers = nil
		}
		if p.Basis == "sealed" && quantity.Or(p.TransitionLayers, 0) == 0 {
			p.TransitionLayers = nil
		}
	}
	return errors.Join(carriedWithin("events", r.Events), carriedWithin("runs", r.Runs), carriedWithin("specimens", r.Specimens))
}

// noteConditions makes knots of what the first print of each machine said of its film
// and level.
func (o *older) noteConditions(r *Record, newID func() (string, error)) error {
	first := map[string]olderRun{}
	for _, run := range o.runs {
		if was, seen := first[run.MachineID]; !seen || run.StartedMS < was.StartedMS {
			first[run.MachineID] = run
		}
	}
	for _, m := range r.Machines {
		run, printed := first[m.ID]
		if !printed {
			continue
		}
		knots := []bench.MachineEvent{}
		knot := func(kind string, atMS int64) bench.MachineEvent {
			return bench.MachineEvent{MachineID: m.ID, AtMS: atMS, Kinds: bench.IDs{kind}, Note: "as noted with " + run.Code, CreatedMS: run.CreatedMS, Version: 1}
		}
		if run.FilmLayers != nil {
			counter := knot("counter", run.StartedMS)
			counter.FilmLayers = run.FilmLayers
			knots = append(knots, counter)
		}
		if run.DaysSinceLevel != nil {
			knots = append(knots, knot("relevel", run.StartedMS-int64(*run.DaysSinceLevel*quantity.DayMS)))
		}
		if quantity.Or(run.MovedSinceLevel, false) {
			knots = append(knots, knot("move", run.StartedMS-1))
		}
		for _, k := range knots {
			var err error
			if k.ID, err = newID(); err != nil {
				return err
			}
			r.Events = append(r.Events, k)
		}
	}
	return nil
}

// noted is in words what was typed of film and level.
func (o olderRun) noted() string {
	words := ""
	if o.FilmLayers != nil {
		words += fmt.Sprintf(" %s layers on the film.", say.Whole(*o.FilmLayers))
	}
	if o.DaysSinceLevel != nil {
		words += fmt.Sprintf(" %s since levelling.", say.Counted(int64(*o.DaysSinceLevel), "day"))
	}
	if words == "" {
		return ""
	}
	return "Noted then:" + words
}
