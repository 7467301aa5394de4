package printing

import (
	"context"
	"strings"

	"ojime/internal/bench"
	"ojime/internal/say"
	"ojime/internal/store"
	"ojime/internal/work/kit"
)

// Printed is how many copies of a piece a run printed, and what became of them.
type Printed struct {
	PieceID string       `json:"piece_id"`
	Piece   string       `json:"piece"`
	Counts  bench.Counts `json:"counts"`
}

// PrintedOf names what a run printed, piece by piece.
func PrintedOf(tallies []bench.Tally, names map[string]string) []Printed {
	out := []Printed{}
	for _, t := range tallies {
		out = append(out, Printed{PieceID: t.PieceID, Piece: names[t.PieceID], Counts: t.Counts})
	}
	return out
}

// PrintedWords is it in one line: 2 × Turret, 1 × Lattice.
func PrintedWords(printed []Printed) string {
	words := make([]string, len(printed))
	for i, p := range printed {
		words[i] = say.Copies(p.Counts.Specimens, p.Piece)
	}
	return strings.Join(words, ", ")
}

// RunLine is a run in a list: what was printed, how long it took and what became
// of it. TookS is nil for a stand-in's print, which is no measurement.
type RunLine struct {
	ID        string       `json:"id"`
	Code      string       `json:"code"`
	Machine   string       `json:"machine"`
	Resin     string       `json:"resin"`
	Settings  string       `json:"settings"`
	Printed   string       `json:"printed"`
	Pieces    []Printed    `json:"pieces"`
	StartedMS int64        `json:"started_ms"`
	TookS     *float64     `json:"took_s"`
	Stopped   bool         `json:"stopped"`
	OurS      *float64     `json:"our_estimate_s"`
	SoftwareS *float64     `json:"software_estimate_s"`
	Shape     string       `json:"shape" enum:"whole,nicked,split,ring,open"`
	Counts    bench.Counts `json:"counts"`
	Prepared  bool         `json:"prepared"`
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
		ids := make([]string, len(rows))
		for i, r := range rows {
			ids[i] = r.ID
		}
		tallies, err := t.TalliesOfRuns(ids)
		if err != nil {
			return err
		}
		for _, r := range rows {
			printed := PrintedOf(tallies[r.ID], names)
			out.Lines = append(out.Lines, RunLine{ID: r.ID, Code: r.Code, Machine: names[r.MachineID], Resin: names[r.ResinID], Settings: names[r.ProfileID],
				Printed: PrintedWords(printed), Pieces: printed, StartedMS: r.StartedMS, TookS: r.TookS(), Stopped: r.EndedHow == bench.EndStopped, OurS: r.OurEstimateS,
				SoftwareS: r.SoftwareEstimateS, Shape: r.Shape, Counts: bench.CountsOf(tallies[r.ID]), Prepared: r.PreparedMS != nil && r.EndedMS == nil})
		}
		return nil
	})
	return out, err
}
