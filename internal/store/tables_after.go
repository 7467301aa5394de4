package store

import (
	"slices"
	"strings"

	"ojime/internal/bench"
	"ojime/internal/store/db"
)

// What is done after a print, what wears, and what was counted.

// SaveStep writes a step after a print.
func (t *Tx) SaveStep(v bench.ProcessStep) error {
	return saved("process step", t.q.SaveProcessStep(t.ctx, db.SaveProcessStepParams(v)))
}

// Step reads one step, or bench.ErrNotFound.
func (t *Tx) Step(id string) (bench.ProcessStep, error) {
	row, err := t.q.StepByID(t.ctx, id)
	return bench.ProcessStep(row), read("step", id, err)
}

func toStep(r db.ProcessStep) bench.ProcessStep { return bench.ProcessStep(r) }

// StepsOfRun lists what was done to a print, in order.
func (t *Tx) StepsOfRun(runID string) ([]bench.ProcessStep, error) {
	rows, err := t.q.StepsOfRun(t.ctx, runID)
	return list("steps of run", rows, err, toStep)
}

// StepsOfRuns lists what was done to prints, by print.
func (t *Tx) StepsOfRuns(runIDs []string) (map[string][]bench.ProcessStep, error) {
	return askLists(t, stepsKey{strings.Join(runIDs, " ")}, []string{"process_step"}, func() (map[string][]bench.ProcessStep, error) { return t.stepsOfRuns(runIDs) })
}

type stepsKey struct{ runs string }

func (t *Tx) stepsOfRuns(runIDs []string) (map[string][]bench.ProcessStep, error) {
	rows, err := t.q.StepsOfRuns(t.ctx, runIDs)
	steps, err := list("steps of runs", rows, err, toStep)
	out := map[string][]bench.ProcessStep{}
	for _, s := range steps {
		out[s.RunID] = append(out[s.RunID], s)
	}
	return out, err
}

// RunningSteps lists the steps whose timers run.
func (t *Tx) RunningSteps() ([]bench.ProcessStep, error) {
	rows, err := t.q.RunningSteps(t.ctx)
	return list("running steps", rows, err, toStep)
}

// Steps lists the steps of every run.
func (t *Tx) Steps() ([]bench.ProcessStep, error) {
	rows, err := t.q.ProcessSteps(t.ctx)
	return list("step", rows, err, toStep)
}

// Bath reads one bath, or bench.ErrNotFound.
func (t *Tx) Bath(id string) (bench.Bath, error) {
	row, err := t.q.BathByID(t.ctx, id)
	return bench.Bath(row), read("bath", id, err)
}

// SaveBath writes a bath.
func (t *Tx) SaveBath(v bench.Bath) error {
	return saved("bath", t.q.SaveBath(t.ctx, db.SaveBathParams(v)))
}

// Baths lists every bath in its order.
func (t *Tx) Baths() ([]bench.Bath, error) {
	rows, err := t.q.Baths(t.ctx)
	return list("bath", rows, err, func(r db.Bath) bench.Bath { return bench.Bath(r) })
}

// WashedIn counts the runs washed in a bath since an instant.
func (t *Tx) WashedIn(bathID string, sinceMS int64) (int64, error) {
	n, err := t.q.WashedIn(t.ctx, db.WashedInParams{BathID: &bathID, EndedMS: &sinceMS})
	return n, read("prints washed in bath", bathID, err)
}

// SaveWaste appends a line to the waste ledger.
func (t *Tx) SaveWaste(v bench.Waste) error {
	return saved("waste", t.q.SaveWaste(t.ctx, db.SaveWasteParams(v)))
}

// Waste lists the waste ledger.
func (t *Tx) Waste() ([]bench.Waste, error) {
	rows, err := t.q.WasteEntries(t.ctx)
	return list("waste", rows, err, func(r db.Waste) bench.Waste { return bench.Waste(r) })
}

// SaveBottleEvent appends what happened to a bottle.
func (t *Tx) SaveBottleEvent(v bench.BottleEvent) error {
	return saved("bottle event", t.q.SaveBottleEvent(t.ctx, db.SaveBottleEventParams(v)))
}

func toBottleEvent(r db.BottleEvent) bench.BottleEvent { return bench.BottleEvent(r) }

// EventsOfBottle lists what happened to a bottle, in order.
func (t *Tx) EventsOfBottle(bottleID string) ([]bench.BottleEvent, error) {
	rows, err := t.q.EventsOfBottle(t.ctx, bottleID)
	return list("events of bottle", rows, err, toBottleEvent)
}

// BottleEvents lists what happened to every bottle.
func (t *Tx) BottleEvents() ([]bench.BottleEvent, error) {
	rows, err := t.q.BottleEvents(t.ctx)
	return list("bottle event", rows, err, toBottleEvent)
}

// Reminder reads one reminder, or bench.ErrNotFound.
func (t *Tx) Reminder(id string) (bench.Reminder, error) {
	row, err := t.q.ReminderByID(t.ctx, id)
	return bench.Reminder(row), read("reminder", id, err)
}

// SaveReminder writes a reminder.
func (t *Tx) SaveReminder(v bench.Reminder) error {
	return saved("reminder", t.q.SaveReminder(t.ctx, db.SaveReminderParams(v)))
}

// Reminders lists all reminders.
func (t *Tx) Reminders() ([]bench.Reminder, error) {
	rows, err := t.q.Reminders(t.ctx)
	return list("reminder", rows, err, func(r db.Reminder) bench.Reminder { return bench.Reminder(r) })
}

// MachineEvent reads one knot, or bench.ErrNotFound.
func (t *Tx) MachineEvent(id string) (bench.MachineEvent, error) {
	row, err := t.q.MachineEventByID(t.ctx, id)
	return bench.MachineEvent(row), read("machine event", id, err)
}

// EventsOfMachine lists the knots of one machine.
func (t *Tx) EventsOfMachine(machineID string) ([]bench.MachineEvent, error) {
	return askList(t, eventsKey{machineID}, []string{"machine_event"}, func() ([]bench.MachineEvent, error) {
		rows, err := t.q.EventsOfMachine(t.ctx, machineID)
		return list("events of machine", rows, err, func(r db.MachineEvent) bench.MachineEvent { return bench.MachineEvent(r) })
	})
}

type eventsKey struct{ machine string }

// RunFilter narrows a list of runs; empty fields do not.
type RunFilter struct {
	MachineID, ResinID, PieceID, Shape, Code string
	Skip, Most                               int64
}

// RunLines lists a page of runs, the newest first.
func (t *Tx) RunLines(f RunFilter) ([]bench.Run, error) {
	rows, err := t.q.RunLines(t.ctx, db.RunLinesParams{MachineID: f.MachineID, ResinID: f.ResinID, PieceID: f.PieceID, Shape: f.Shape, Code: f.Code, Skip: f.Skip, Most: f.Most})
	return list("runs", rows, err, func(r db.Run) bench.Run { return bench.Run(r) })
}

// Bead is a run as a cord shows it.
type Bead = db.BeadsRow

// Beads lists the runs that began from one instant to another, as cords show them.
func (t *Tx) Beads(fromMS, toMS int64) ([]Bead, error) {
	rows, err := t.q.Beads(t.ctx, db.BeadsParams{StartedMS: fromMS, StartedMS_2: toMS})
	return list("beads", rows, err, func(r db.BeadsRow) Bead { return r })
}

type runsOfKey struct{ machine, resin, piece string }

// RunsOf lists the runs of a piece in a resin on a machine.
func (t *Tx) RunsOf(machineID, resinID, pieceID string) ([]bench.Run, error) {
	out, err := askList(t, runsOfKey{machineID, resinID, pieceID}, []string{"run", "tally"}, func() ([]bench.Run, error) {
		rows, err := t.q.RunsOf(t.ctx, db.RunsOfParams{MachineID: machineID, ResinID: resinID, PieceID: pieceID})
		return list("runs of", rows, err, func(r db.Run) bench.Run { return bench.Run(r) })
	})
	if t.runs != nil { // it only reads
		for _, r := range out {
			t.runs[r.ID] = r
		}
	}
	return slices.Clone(out), err
}

// FirstRunMS is when the first run on record began, 0 without any.
func (t *Tx) FirstRunMS() (int64, error) {
	ms, err := t.q.FirstRun(t.ctx)
	return ms, read("first run", "", err)
}

// PendingRuns lists ended runs with specimens that nobody has judged.
func (t *Tx) PendingRuns(most int64) ([]bench.Run, error) {
	rows, err := t.q.PendingRuns(t.ctx, most)
	return list("pending runs", rows, err, func(r db.Run) bench.Run { return bench.Run(r) })
}

// JudgedRun is a judged run with the age of what it was printed on.
type JudgedRun = db.JudgedOfMachineRow

// JudgedOfMachine lists the judged runs of a machine, in order.
func (t *Tx) JudgedOfMachine(machineID string) ([]JudgedRun, error) {
	rows, err := t.q.JudgedOfMachine(t.ctx, machineID)
	return list("judged runs of machine", rows, err, func(r db.JudgedOfMachineRow) JudgedRun { return r })
}

// Place is where a specimen of a plate with failures stood.
type Place = db.PlacesOfMachineRow

// PlacesOfMachine lists where specimens stood on the plates of a machine that lost
// something, plate by plate.
func (t *Tx) PlacesOfMachine(machineID string) ([]Place, error) {
	return askList(t, placesKey{machineID}, []string{"run", "specimen", "tally"}, func() ([]Place, error) {
		rows, err := t.q.PlacesOfMachine(t.ctx, machineID)
		return list("places", rows, err, func(r db.PlacesOfMachineRow) Place { return r })
	})
}

type placesKey struct{ machine string }

// WearOfMachine lists what the ended, real prints of a machine took of it.
func (t *Tx) WearOfMachine(machineID string) ([]bench.MachinePrint, error) {
	return askList(t, wearKey{machineID}, []string{"run"}, func() ([]bench.MachinePrint, error) {
		rows, err := t.q.WearOfMachine(t.ctx, machineID)
		return list("wear of machine", rows, err, func(r db.WearOfMachineRow) bench.MachinePrint {
			return bench.MachinePrint{StartMS: r.StartedMS, Layers: r.WornLayers, LightS: r.WornLightS, ResinID: r.ResinID}
		})
	})
}

type wearKey struct{ machine string }

// BottleUse is what runs took from a bottle, and how many noted it.
type BottleUse = db.BottleUseRow

// BottleUse adds up what runs took from a bottle since an instant.
func (t *Tx) BottleUse(bottleID string, sinceMS int64) (BottleUse, error) {
	row, err := t.q.BottleUse(t.ctx, db.BottleUseParams{BottleID: &bottleID, StartedMS: sinceMS})
	return row, read("use of bottle", bottleID, err)
}

// TimesOfMachine lists the ended prints of a machine, in order, with what their
// times need and nothing else.
func (t *Tx) TimesOfMachine(machineID string) ([]bench.Run, error) {
	return askList(t, timesKey{machineID}, []string{"run"}, func() ([]bench.Run, error) { return t.timesOfMachine(machineID) })
}

type timesKey struct{ machine string }

func (t *Tx) timesOfMachine(machineID string) ([]bench.Run, error) {
	rows, err := t.q.TimesOfMachine(t.ctx, machineID)
	return list("times of machine", rows, err, func(r db.TimesOfMachineRow) bench.Run {
		return bench.Run{ID: r.ID, StartedMS: r.StartedMS, ProfileID: r.ProfileID, Job: r.Job, EndedMS: r.EndedMS, EndedHow: r.EndedHow, PausedS: r.PausedS, ClockWentBack: r.ClockWentBack,
			SpeedUp: r.SpeedUp, DialChanged: r.DialChanged, OurEstimateS: r.OurEstimateS, EstimateModel: r.EstimateModel, Software: r.Software, SoftwareEstimateS: r.SoftwareEstimateS,
			Layers: r.Layers, AreaMM2: r.AreaMM2, OutlineMM: r.OutlineMM}
	})
}

// RunsBefore lists the last runs of a machine before another, the newest first.
func (t *Tx) RunsBefore(r bench.Run, most int64) ([]bench.Run, error) {
	rows, err := t.q.RunsBefore(t.ctx, db.RunsBeforeParams{MachineID: r.MachineID, StartedMS: r.StartedMS, ID: r.ID, Limit: most})
	return list("runs before", rows, err, func(r db.Run) bench.Run { return bench.Run(r) })
}

// Told is how many specimens of a machine were judged, how many of them its prints
// spoilt, and how many met with an accident.
type Told = db.ToldOfMachineRow

// ToldOfMachine counts the judged specimens of a machine.
func (t *Tx) ToldOfMachine(machineID string) (Told, error) {
	row, err := t.q.ToldOfMachine(t.ctx, machineID)
	return row, read("specimens of machine", machineID, err)
}

// RunsWithoutJob lists the runs of which it was not yet noted what was printed.
func (t *Tx) RunsWithoutJob() ([]bench.Run, error) {
	rows, err := t.q.RunsWithoutJob(t.ctx)
	return list("runs", rows, err, func(r db.Run) bench.Run { return bench.Run(r) })
}

// PieceName is a piece by name alone: the rest of it is large.
type PieceName = db.PieceNamesRow

// PieceNames lists the pieces by name alone.
func (t *Tx) PieceNames() ([]PieceName, error) {
	rows, err := t.q.PieceNames(t.ctx)
	return list("piece names", rows, err, func(r db.PieceNamesRow) PieceName { return r })
}

// UnprintedPlates lists plates that no run printed, the oldest first.
func (t *Tx) UnprintedPlates() ([]bench.Plate, error) {
	rows, err := t.q.UnprintedPlates(t.ctx)
	return list("unprinted plates", rows, err, func(r db.Plate) bench.Plate { return bench.Plate(r) })
}

// ThreadAt is a run with the resin in the vat.
type ThreadAt = db.ThreadOfRow

// ThreadOf lists the resins of a machine's runs from one instant to another.
func (t *Tx) ThreadOf(machineID string, fromMS, toMS int64) ([]ThreadAt, error) {
	return askList(t, threadKey{machineID, fromMS, toMS}, []string{"run"}, func() ([]ThreadAt, error) {
		rows, err := t.q.ThreadOf(t.ctx, db.ThreadOfParams{MachineID: machineID, StartedMS: fromMS, StartedMS_2: toMS})
		return list("thread of machine", rows, err, func(r db.ThreadOfRow) ThreadAt { return r })
	})
}

type threadKey struct {
	machine      string
	fromMS, toMS int64
}

// RunsOfProfiles counts the runs of each settings.
func (t *Tx) RunsOfProfiles() (map[string]int64, error) {
	rows, err := t.q.RunsOfProfiles(t.ctx)
	out := map[string]int64{}
	for _, r := range rows {
		out[r.ProfileID] = r.Runs
	}
	return out, read("runs of settings", "", err)
}
