package store

import (
	"strings"

	"ojime/internal/bench"
	"ojime/internal/store/db"
)

// SaveSpecimenStage appends a stage that a specimen came to, or takes it back.
func (t *Tx) SaveSpecimenStage(v bench.SpecimenStage) error {
	return saved("stage of a specimen", t.q.SaveSpecimenStage(t.ctx, db.SaveSpecimenStageParams(v)))
}

// SpecimenStages lists the stages of all specimens in their order.
func (t *Tx) SpecimenStages() ([]bench.SpecimenStage, error) {
	rows, err := t.q.SpecimenStages(t.ctx)
	return list("stages of specimens", rows, err, func(r db.SpecimenStage) bench.SpecimenStage { return bench.SpecimenStage(r) })
}

// StagesOfRuns lists the stages of the specimens of runs, by run and in their order, also
// those taken back.
func (t *Tx) StagesOfRuns(runIDs []string) (map[string][]bench.SpecimenStage, error) {
	return askLists(t, stagesKey{strings.Join(runIDs, " ")}, []string{"specimen_stage"}, func() (map[string][]bench.SpecimenStage, error) { return t.stagesOfRuns(runIDs) })
}

type stagesKey struct{ runs string }

func (t *Tx) stagesOfRuns(runIDs []string) (map[string][]bench.SpecimenStage, error) {
	rows, err := t.q.SpecimenStagesOfRuns(t.ctx, runIDs)
	out := map[string][]bench.SpecimenStage{}
	for _, r := range rows {
		out[r.RunID] = append(out[r.RunID], bench.SpecimenStage(r.SpecimenStage))
	}
	return out, read("stages", "of runs", err)
}

// SaveResinWeighing appends a weighing of a resin, or takes it back.
func (t *Tx) SaveResinWeighing(v bench.ResinWeighing) error {
	return saved("weighing of a resin", t.q.SaveResinWeighing(t.ctx, db.SaveResinWeighingParams(v)))
}

// ResinWeighings lists the weighings of all resins in their order, also those taken back.
func (t *Tx) ResinWeighings() ([]bench.ResinWeighing, error) {
	rows, err := t.q.ResinWeighings(t.ctx)
	return list("weighings of resins", rows, err, func(r db.ResinWeighing) bench.ResinWeighing { return bench.ResinWeighing(r) })
}

// RunsOfResin are the ids of the prints of a resin, the first begun first.
func (t *Tx) RunsOfResin(resinID string) ([]string, error) {
	return askList(t, ofResinKey{resinID}, []string{"run"}, func() ([]string, error) {
		ids, err := t.q.RunsOfResin(t.ctx, resinID)
		return ids, read("runs of resin", resinID, err)
	})
}

type ofResinKey struct{ resin string }
