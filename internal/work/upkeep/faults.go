package upkeep

import (
	"slices"

	"ojime/internal/bench"
	"ojime/internal/core/diagnose"
	"ojime/internal/core/outcome"
	"ojime/internal/store"
	"ojime/internal/work/task"
)

// FaultPrints are the judged prints of a machine in the order of time, with what they
// showed as printed so and what was tried against it; and those symptoms by piece.
func FaultPrints(t *store.Tx, machineID string) ([]diagnose.JudgedPrint, []store.JudgedSymptom, error) {
	pieces, err := t.PiecesOfJudged(machineID)
	if err != nil {
		return nil, nil, err
	}
	out, at := []diagnose.JudgedPrint{}, map[string]int{}
	for _, p := range pieces {
		i, seen := at[p.ID]
		if !seen {
			i = len(out)
			at[p.ID], out = i, append(out, diagnose.JudgedPrint{Run: p.ID, AtMS: p.StartedMS})
		}
		out[i].Pieces = append(out[i].Pieces, p.PieceID)
	}
	symptoms, err := t.SymptomsOfJudged(machineID)
	if err != nil {
		return nil, nil, err
	}
	symptoms = slices.DeleteFunc(symptoms, func(s store.JudgedSymptom) bool {
		return s.Symptom == "" || !(outcome.Defect{Origin: s.Origin}).PrintedSo()
	})
	for _, s := range symptoms {
		if p := &out[at[s.RunID]]; !slices.Contains(p.Symptoms, s.Symptom) {
			p.Symptoms = append(p.Symptoms, s.Symptom)
		}
	}
	remedies, err := t.RemediesOfMachine(machineID)
	if err != nil {
		return nil, nil, err
	}
	for _, r := range remedies {
		// What was tried on a print that is not judged yet has no course.
		if i, judged := at[r.RunID]; judged {
			out[i].Tried = append(out[i].Tried, diagnose.Attempt{ID: r.ID, Symptom: r.Symptom, Cause: r.Cause})
		}
	}
	return out, symptoms, nil
}

// TriedRemedy is what was tried on a print, with the print that told what came of it:
// Returned is nil while none has. Alone is false where other causes were gone after at the
// same time; Says puts it in words. What was tried against a symptom that no longer counts
// on its print has nothing to tell.
type TriedRemedy struct {
	bench.Remedy
	Run        string `json:"run"`
	Title      string `json:"title"`
	ToldBy     string `json:"told_by"`
	ToldByCode string `json:"told_by_code"`
	Returned   *bool  `json:"returned" required:"false"`
	Alone      bool   `json:"alone"`
	Says       string `json:"says"`
}

// TriedOn is everything that was tried on a machine's prints, in the order of time, with
// what came of it by the courses of its faults.
func TriedOn(t *store.Tx, machineID string, courses []diagnose.Course) ([]TriedRemedy, error) {
	out := []TriedRemedy{}
	remedies, err := t.RemediesOfMachine(machineID)
	if err != nil {
		return out, err
	}
	codeOf := task.Memoise(func(id string) (string, error) {
		if id == "" {
			return "", nil
		}
		r, err := t.Run(id)
		return r.Code, err
	})
	for _, v := range remedies {
		tried := TriedRemedy{Remedy: v, Title: diagnose.TitleOf(v.Cause), Says: "is not on record as printed so"}
		if tried.Run, err = codeOf(v.RunID); err != nil {
			return out, err
		}
		for _, c := range courses {
			if c.Run != v.RunID || c.Symptom != v.Symptom {
				continue
			}
			if tried.ToldByCode, err = codeOf(c.ToldBy); err != nil {
				return out, err
			}
			if tried.ToldBy = c.ToldBy; c.ToldBy != "" {
				tried.Returned = &c.Returned
			}
			tried.Alone, tried.Says = c.Alone(), c.Sentence(tried.ToldByCode)
		}
		out = append(out, tried)
	}
	return out, nil
}

// FaultCourses are the courses of the faults of several machines.
func FaultCourses(t *store.Tx, machines []string) ([]diagnose.Course, error) {
	out := []diagnose.Course{}
	for _, id := range machines {
		prints, _, err := FaultPrints(t, id)
		if err != nil {
			return nil, err
		}
		out = append(out, diagnose.Courses(prints)...)
	}
	return out, nil
}
