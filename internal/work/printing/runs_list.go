package printing

import (
	"context"

	"ojime/internal/bench"
	"ojime/internal/store"
	"ojime/internal/work/kit"
)

// RunLine is a run in a list: what was printed, how long it took and what became
// of it. TookS is nil for a stand-in's print, which is no measurement.
type RunLine struct {
	ID        string   `json:"id"`
	Code      string   `json:"code"`
	Machine   string   `json:"machine"`
	Resin     string   `json:"resin"`
	Piece     string   `json:"piece"`
	Copies    int64    `json:"copies"`
	StartedMS int64    `json:"started_ms"`
	TookS     *float64 `json:"took_s"`
	Stopped   bool     `json:"stopped"`
	OurS      *float64 `json:"our_estimate_s"`
	SoftwareS *float64 `json:"software_estimate_s"`
	Shape     string   `json:"shape" enum:"whole,nicked,split,ring,open"`
	Whole     int64    `json:"whole"`
	Judged    int64    `json:"judged"`
	Prepared  bool     `json:"prepared"`
}

// RunLines is a page of runs; More says that another page follows.
type RunLines struct {
	Lines []RunLine `json:"lines"`
	More  bool      `json:"more"`
}

// RunFilter narrows a list of runs.
type RunFilter = store.RunFilter

// mostLines bounds a page of a list.
const mostLines = 200

// Runs lists a page of runs, the newest first.
func (w *Tasks) Runs(ctx context.Context, f RunFilter) (out RunLines, err error) {
	if f.Most <= 0 || f.Most > mostLines {
		f.Most = mostLines
	}
	page := f.Most
	f.Most++
	out.Lines = []RunLine{}
	err = w.Store.Read(ctx, func(t *store.Tx) error {
		rows, err := t.RunLines(f)
		if err != nil {
			return err
		}
		if out.More = int64(len(rows)) > page; out.More {
			rows = rows[:page]
		}
		names, err := kit.KitNames(t)
		if err != nil {
			return err
		}
		for _, r := range rows {
			out.Lines = append(out.Lines, RunLine{ID: r.Run.ID, Code: r.Run.Code, Machine: names[r.Run.MachineID], Resin: names[r.Run.ResinID], Piece: names[r.Run.PieceID],
				Copies: r.Run.Copies, StartedMS: r.Run.StartedMS, TookS: r.Run.TookS(), Stopped: r.Run.EndedHow == bench.EndStopped, OurS: r.Run.OurEstimateS, SoftwareS: r.Run.SoftwareEstimateS,
				Shape: r.Tally.Shape(), Whole: r.Tally.Whole, Judged: r.Tally.Specimens - r.Tally.Pending, Prepared: r.Run.PreparedMS != nil && r.Run.EndedMS == nil})
		}
		return nil
	})
	return out, err
}
