package printing

import (
	"context"
	"fmt"

	"ojime/internal/bench"
	"ojime/internal/core/quantity"
	"ojime/internal/store"
	"ojime/internal/work/planning"
	"ojime/internal/work/task"
)

// Preparation is a run to be: a plate, or copies of pieces. The settings of a plate of
// series cells are the series' own.
type Preparation struct {
	MachineID         string    `json:"machine_id" minLength:"1"`
	PlateID           *string   `json:"plate_id" required:"false"`
	ProfileID         string    `json:"profile_id" required:"false"`
	Pieces            []Portion `json:"pieces" required:"false"`
	BottleID          *string   `json:"bottle_id" required:"false"`
	VatFillML         *float64  `json:"vat_fill_ml" required:"false" minimum:"0"`
	Prediction        string    `json:"prediction" required:"false"`
	PredictionFailPct *float64  `json:"prediction_fail_pct" required:"false" minimum:"0" maximum:"100"`
}

// Prepare makes a run with its specimens and codes before it is printed. What seldom
// changes carries over from the machine's last run; what is measured for each print
// stays open.
func (w *Tasks) Prepare(ctx context.Context, p Preparation) (RunSheet, error) {
	return w.PrepareAs(ctx, p, func(*bench.Run) {})
}

// PrepareAs is Prepare with a last word on the run before it is kept.
func (w *Tasks) PrepareAs(ctx context.Context, p Preparation, change func(*bench.Run)) (RunSheet, error) {
	draft, err := w.DraftRun(ctx, p.MachineID)
	if err != nil {
		return RunSheet{}, err
	}
	if p.ProfileID == "" && p.PlateID != nil {
		if p.ProfileID, err = task.Keep(ctx, w.Base, func(t *store.Tx) (string, error) { return w.settingsOfPlate(t, *p.PlateID) }); err != nil {
			return RunSheet{}, err
		}
	}
	if p.ProfileID == "" {
		return RunSheet{}, quantity.Errorf("profile_id", "is missing; choose the settings to print with")
	}
	profile, err := task.ReadOne(ctx, w.Base, p.ProfileID, (*store.Tx).Profile)
	if err != nil {
		return RunSheet{}, err
	}
	r := draft.Run
	r.MachineID, r.ResinID, r.ProfileID = p.MachineID, profile.ResinID, p.ProfileID
	r.PlateID, r.BottleID, r.VatFillML, r.Prediction, r.PredictionFailPct = p.PlateID, p.BottleID, p.VatFillML, p.Prediction, p.PredictionFailPct
	r.StartedMS, r.PreparedMS = w.NowMS(), quantity.Ptr(w.NowMS())
	r.AttendedMin, r.WashS, r.CureS, r.Surface = nil, nil, nil, nil
	if err := w.Store.Read(ctx, func(t *store.Tx) error { return asPlanned(t, &r) }); err != nil {
		return RunSheet{}, err
	}
	change(&r)
	return w.RecordRun(ctx, Recording{Run: r, Pieces: p.Pieces})
}

// asPlanned takes over how the plate of a print is to be prepared and treated.
func asPlanned(t *store.Tx, r *bench.Run) error {
	if r.PlateID == nil {
		return nil
	}
	plate, err := t.Plate(*r.PlateID)
	if err != nil {
		return err
	}
	if !plate.Open() {
		return fmt.Errorf("%s was withdrawn (%s); bring it back, or copy it: %w", plate.Code, plate.ArchivedWhy, bench.ErrConflict)
	}
	if plate.Software != "" {
		r.Software = &plate.Software
	}
	if plate.Orientation != nil {
		r.Orientation = plate.Orientation
	}
	if plate.Supports != nil {
		r.Supports = plate.Supports
	}
	r.WashS, r.CureS = plate.WashS, plate.CureS
	return nil
}

// settingsOfPlate are the settings that a plate is printed with; those of the series whose cells
// lie on it are found, or made. Empty for a plate without any.
func (w *Tasks) settingsOfPlate(t *store.Tx, plateID string) (string, error) {
	plate, err := t.Plate(plateID)
	if err != nil || plate.SeriesID == nil {
		return quantity.Or(plate.ProfileID, ""), err
	}
	profiles, err := t.Profiles()
	if err != nil {
		return "", err
	}
	for _, p := range profiles {
		if p.Basis == bench.BasisSeries && quantity.Or(p.SeriesID, "") == *plate.SeriesID {
			return p.ID, nil
		}
	}
	m, err := t.Machine(plate.MachineID)
	if err != nil {
		return "", err
	}
	series, err := t.Series(*plate.SeriesID)
	if err != nil {
		return "", err
	}
	p := planning.SeriesSettings(m, series)
	err = w.Kit.KeepProfile(t, &p)
	return p.ID, err
}

// PrintedAsPlanned puts a print of a plate on record that was not followed while it printed:
// everything is as the plate and the machine's last print have it, but when it printed and how it
// ended. It gives the id of the print.
func (w *Tasks) PrintedAsPlanned(t *store.Tx, plateID string, startedMS, endedMS int64, endedHow string, confirmed bool) (string, error) {
	plate, err := t.Plate(plateID)
	if err != nil {
		return "", err
	}
	draft, err := w.draft(t, plate.MachineID)
	if err != nil {
		return "", err
	}
	r := draft.Run
	if r.ProfileID, err = w.settingsOfPlate(t, plateID); err != nil {
		return "", err
	}
	profile, err := t.Profile(r.ProfileID)
	if err != nil {
		return "", err
	}
	r.MachineID, r.ResinID, r.PlateID, r.BottleID, r.VatFillML = plate.MachineID, profile.ResinID, &plateID, plate.BottleID, plate.VatFillML
	r.StartedMS, r.EndedMS, r.EndedHow = startedMS, &endedMS, endedHow
	r.SoftwareEstimateS, r.AttendedMin, r.Surface = plate.SoftwareEstimateS, nil, nil
	if err := asPlanned(t, &r); err != nil {
		return "", err
	}
	ready, err := w.Ready(t, Recording{Run: r, Confirmed: confirmed})
	if err != nil {
		return "", err
	}
	return w.RecordIn(t, ready)
}

// notWithdrawn refuses a print of a plate that was withdrawn before it began; one that was printed before
// stays what it is.
func notWithdrawn(t *store.Tx, r *bench.Run) error {
	if r.PlateID == nil || r.ID != "" {
		return nil
	}
	plate, err := t.Plate(*r.PlateID)
	if err == nil && !plate.Open() && r.StartedMS >= *plate.ArchivedMS {
		return fmt.Errorf("%s was withdrawn (%s); bring it back, or say that the print began before: %w", plate.Code, plate.ArchivedWhy, bench.ErrConflict)
	}
	return err
}
