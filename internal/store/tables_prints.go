package store

import (
	"database/sql"
	"errors"

	"ojime/internal/bench"
	"ojime/internal/store/db"
)

// Plates as plans of prints, and prints as they happen.

// RunsOfPlate lists the runs that printed a plate.
func (t *Tx) RunsOfPlate(plateID string) ([]bench.Run, error) {
	rows, err := t.q.RunsOfPlate(t.ctx, &plateID)
	return list("runs of plate", rows, err, func(r db.Run) bench.Run { return bench.Run(r) })
}

// RunsAgain lists the prints that were made again of one.
func (t *Tx) RunsAgain(runID string) ([]bench.Run, error) {
	rows, err := t.q.RunsAgain(t.ctx, &runID)
	return list("runs", rows, err, func(r db.Run) bench.Run { return bench.Run(r) })
}

// OpenRuns lists the runs that are prepared or print now.
func (t *Tx) OpenRuns() ([]bench.Run, error) {
	rows, err := t.q.OpenRuns(t.ctx)
	return list("open runs", rows, err, func(r db.Run) bench.Run { return bench.Run(r) })
}

// SaveRunEvent appends what happened to a run.
func (t *Tx) SaveRunEvent(v bench.RunEvent) error {
	return saved("run event", t.q.SaveRunEvent(t.ctx, db.SaveRunEventParams(v)))
}

// RunEvents lists what happened to every run, run by run.
func (t *Tx) RunEvents() ([]bench.RunEvent, error) {
	rows, err := t.q.RunEvents(t.ctx)
	return list("run event", rows, err, func(r db.RunEvent) bench.RunEvent { return bench.RunEvent(r) })
}

// EventsOfRun lists what happened to a run, in order.
func (t *Tx) EventsOfRun(runID string) ([]bench.RunEvent, error) {
	rows, err := t.q.EventsOfRun(t.ctx, runID)
	return list("events of run", rows, err, func(r db.RunEvent) bench.RunEvent { return bench.RunEvent(r) })
}

// SavePreflight appends an answer before a print.
func (t *Tx) SavePreflight(v bench.Preflight) error {
	return saved("preflight", t.q.SavePreflight(t.ctx, db.SavePreflightParams(v)))
}

// Preflights lists the answers before every print.
func (t *Tx) Preflights() ([]bench.Preflight, error) {
	rows, err := t.q.Preflights(t.ctx)
	return list("preflight", rows, err, func(r db.Preflight) bench.Preflight { return bench.Preflight(r) })
}

// PreflightOfRun lists the answers before a print, in order.
func (t *Tx) PreflightOfRun(runID string) ([]bench.Preflight, error) {
	rows, err := t.q.PreflightOfRun(t.ctx, runID)
	return list("preflight of run", rows, err, func(r db.Preflight) bench.Preflight { return bench.Preflight(r) })
}

// LastSkipReason is why an item was left out last, empty where none was.
func (t *Tx) LastSkipReason() (string, error) {
	reason, err := t.q.LastSkipReason(t.ctx)
	if errors.Is(err, sql.ErrNoRows) {
		return "", nil
	}
	return reason, read("reason", "", err)
}

// SaveRemedy writes what was tried.
func (t *Tx) SaveRemedy(v bench.Remedy) error {
	return saved("remedy", t.q.SaveRemedy(t.ctx, db.SaveRemedyParams(v)))
}

// Remedies lists all that was tried.
func (t *Tx) Remedies() ([]bench.Remedy, error) {
	rows, err := t.q.Remedies(t.ctx)
	return list("remedy", rows, err, func(r db.Remedy) bench.Remedy { return bench.Remedy(r) })
}

// Plate reads one plate, or bench.ErrNotFound.
func (t *Tx) Plate(id string) (bench.Plate, error) {
	row, err := t.q.PlateByID(t.ctx, id)
	return bench.Plate(row), read("plate", id, err)
}

// SavePlate writes a plate.
func (t *Tx) SavePlate(v bench.Plate) error {
	return saved("plate", t.q.SavePlate(t.ctx, db.SavePlateParams(v)))
}

// Plates lists every plate in its order.
func (t *Tx) Plates() ([]bench.Plate, error) {
	rows, err := t.q.Plates(t.ctx)
	return list("plate", rows, err, func(r db.Plate) bench.Plate { return bench.Plate(r) })
}

// SavePlacement writes what lies at one place of a plate.
func (t *Tx) SavePlacement(v bench.Placement) error {
	return saved("placement", t.q.SavePlacement(t.ctx, db.SavePlacementParams(v)))
}

// Placements lists every placement, plate by plate.
func (t *Tx) Placements() ([]bench.Placement, error) {
	rows, err := t.q.Placements(t.ctx)
	return list("placement", rows, err, func(r db.Placement) bench.Placement { return bench.Placement(r) })
}

// PlacementsOfPlate lists what lies on a plate, in order.
func (t *Tx) PlacementsOfPlate(plateID string) ([]bench.Placement, error) {
	rows, err := t.q.PlacementsOfPlate(t.ctx, plateID)
	return list("placements of plate", rows, err, func(r db.Placement) bench.Placement { return bench.Placement(r) })
}

// PlatesOfSeries lists the plates that the cells of a series lie on.
func (t *Tx) PlatesOfSeries(seriesID string) ([]bench.Plate, error) {
	rows, err := t.q.PlatesOfSeries(t.ctx, &seriesID)
	return list("plates of series", rows, err, func(r db.Plate) bench.Plate { return bench.Plate(r) })
}

// ClearPlate takes everything off a plate.
func (t *Tx) ClearPlate(plateID string) error {
	return saved("plate", t.q.ClearPlate(t.ctx, plateID))
}

// SaveReviewPlan writes how the prints of a review were drawn. It does not change.
func (t *Tx) SaveReviewPlan(v bench.ReviewPlan) error {
	return saved("review plan", t.q.SaveReviewPlan(t.ctx, db.SaveReviewPlanParams(v)))
}

// ReviewPlans lists every plan of a review, the oldest first.
func (t *Tx) ReviewPlans() ([]bench.ReviewPlan, error) {
	rows, err := t.q.ReviewPlans(t.ctx)
	return list("review plan", rows, err, func(r db.ReviewPlan) bench.ReviewPlan { return bench.ReviewPlan(r) })
}

// PlansOfReview lists the plans of one review, the oldest first.
func (t *Tx) PlansOfReview(reviewID string) ([]bench.ReviewPlan, error) {
	rows, err := t.q.PlansOfReview(t.ctx, reviewID)
	return list("plans of review", rows, err, func(r db.ReviewPlan) bench.ReviewPlan { return bench.ReviewPlan(r) })
}

// PlatesOfReviewPlan lists the plates of a plan, machine by machine in their turn.
func (t *Tx) PlatesOfReviewPlan(planID string) ([]bench.Plate, error) {
	rows, err := t.q.PlatesOfReviewPlan(t.ctx, &planID)
	return list("plates of review plan", rows, err, func(r db.Plate) bench.Plate { return bench.Plate(r) })
}
