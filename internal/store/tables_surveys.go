package store

import (
	"ojime/internal/bench"
	"ojime/internal/store/db"
)

// SavePlateSurvey appends a survey of a machine's plate, or takes it back.
func (t *Tx) SavePlateSurvey(s bench.PlateSurvey) error {
	return saved("survey of a plate", t.q.SavePlateSurvey(t.ctx, db.SavePlateSurveyParams(s)))
}

// PlateSurveys lists the surveys of all plates in their order, also those taken back.
func (t *Tx) PlateSurveys() ([]bench.PlateSurvey, error) {
	rows, err := t.q.PlateSurveys(t.ctx)
	return list("surveys of plates", rows, err, func(r db.PlateSurvey) bench.PlateSurvey { return bench.PlateSurvey(r) })
}

// PlateSurveysOfMachine lists the surveys of one machine's plate in their order, also those taken
// back.
func (t *Tx) PlateSurveysOfMachine(machineID string) ([]bench.PlateSurvey, error) {
	rows, err := t.q.PlateSurveysOfMachine(t.ctx, machineID)
	return list("surveys of a plate", rows, err, func(r db.PlateSurvey) bench.PlateSurvey { return bench.PlateSurvey(r) })
}
