package timing

import (
	"slices"

	"ojime/internal/core/quantity"
	"ojime/internal/core/stats"
)

// ProgramStages are the steps of a piece on a computer, in their order.
var ProgramStages = []string{"import", "orient", "support", "slice", "export", "transfer"}

// ProgramStep is one such step: by which program and version, of which piece, how long it took in s
// (nil where that is not known), and whether it was done, or ended in an error or a crash.
type ProgramStep struct {
	Program string
	Version string
	Piece   string
	Stage   string
	TookS   *float64
	Ended   string
}

// Failed says that a step was not done.
func (s ProgramStep) Failed() bool { return s.Ended != "done" }

// Program is what the steps of one version of a program show. Failed counts those that ended in an
// error or a crash, of Steps; CI is the 95 % interval of that share (Wilson). Stages are the times
// of those that were done and timed.
type Program struct {
	Program string             `json:"program"`
	Version string             `json:"version"`
	Steps   int                `json:"steps"`
	Failed  int                `json:"failed"`
	Crashed int                `json:"crashed"`
	CI      *quantity.Interval `json:"ci"`
	Stages  []StageTime        `json:"stages"`
}

// StageTime is how long a step took with one version of a program, in s: the median of N, with the
// least and the most.
type StageTime struct {
	Stage   string  `json:"stage"`
	N       int     `json:"n"`
	MedianS float64 `json:"median_s"`
	LeastS  float64 `json:"least_s"`
	MostS   float64 `json:"most_s"`
}

// ByProgram groups steps by program and version, in the order in which each came first.
func ByProgram(steps []ProgramStep) []Program {
	out := []Program{}
	for _, s := range steps {
		i := slices.IndexFunc(out, func(p Program) bool { return p.Program == s.Program && p.Version == s.Version })
		if i < 0 {
			out, i = append(out, Program{Program: s.Program, Version: s.Version, Stages: []StageTime{}}), len(out)
		}
		out[i].Steps++
		if s.Failed() {
			out[i].Failed++
		}
		if s.Ended == "crash" {
			out[i].Crashed++
		}
	}
	for i := range out {
		p := &out[i]
		p.CI = quantity.Ptr(stats.Wilson(float64(p.Failed), float64(p.Steps)))
		for _, stage := range ProgramStages {
			if t, timed := stageTime(steps, *p, stage); timed {
				p.Stages = append(p.Stages, t)
			}
		}
	}
	return out
}

func stageTime(steps []ProgramStep, p Program, stage string) (StageTime, bool) {
	var took []float64
	for _, s := range steps {
		if s.Program == p.Program && s.Version == p.Version && s.Stage == stage && !s.Failed() && s.TookS != nil {
			took = append(took, *s.TookS)
		}
	}
	if len(took) == 0 {
		return StageTime{}, false
	}
	return StageTime{Stage: stage, N: len(took), MedianS: stats.Median(slices.Clone(took)), LeastS: slices.Min(took), MostS: slices.Max(took)}, true
}

// NextStage is the step that follows one that was done, the first after the last and where none was.
func NextStage(done string) string {
	return ProgramStages[(slices.Index(ProgramStages, done)+1)%len(ProgramStages)]
}

// TriedAgain is the first step after the one at index i that tried the same again: the same stage
// of the same piece in another version of the program. ok is false where nobody did.
func TriedAgain(steps []ProgramStep, i int) (again ProgramStep, ok bool) {
	s := steps[i]
	for _, later := range steps[i+1:] {
		if later.Program == s.Program && later.Version != s.Version && later.Piece == s.Piece && later.Stage == s.Stage {
			return later, true
		}
	}
	return ProgramStep{}, false
}
