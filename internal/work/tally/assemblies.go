package tally

import (
	"context"
	"fmt"
	"slices"

	"ojime/internal/bench"
	"ojime/internal/core/evidence"
	"ojime/internal/core/quantity"
	"ojime/internal/core/setup"
	"ojime/internal/store"
	"ojime/internal/work/kit"
	"ojime/internal/work/planning"
	"ojime/internal/work/printing"
	"ojime/internal/work/side"
	"ojime/internal/work/task"
)

// AssemblyPart is a piece of an assembly with what was printed of it: Good is how many
// came out good, Complete for how many wholes that suffices.
type AssemblyPart struct {
	PieceID  string       `json:"piece_id"`
	Piece    string       `json:"piece"`
	Copies   int64        `json:"copies"`
	Counts   bench.Counts `json:"counts"`
	Good     int64        `json:"good"`
	Complete int64        `json:"complete"`
	VolumeML float64      `json:"volume_ml"`
}

// AssemblyMaker is one machine with one settings that printed parts: time, resin and
// failures of a whole there, by the shares of its plates. A figure is nil, with a
// reason, where a part was not printed or something is not on record.
type AssemblyMaker struct {
	Machine  string              `json:"machine"`
	Settings string              `json:"settings"`
	Runs     []string            `json:"runs"`
	TimeS    *float64            `json:"time_s"`
	ResinML  *float64            `json:"resin_ml"`
	Cost     *float64            `json:"cost"`
	Reason   string              `json:"reason"`
	Judged   int64               `json:"judged"`
	Failed   int64               `json:"failed"`
	Rate     evidence.RateResult `json:"rate"`
	Wholes   int64               `json:"wholes"`
}

// AssemblySheet is an assembly with its parts and what is known of the whole. Complete
// is how many wholes the good copies of all parts suffice for; Missing says which part
// is wanting.
type AssemblySheet struct {
	Assembly bench.Assembly  `json:"assembly"`
	Parts    []AssemblyPart  `json:"parts"`
	Complete int64           `json:"complete"`
	Missing  string          `json:"missing"`
	VolumeML float64         `json:"volume_ml"`
	Makers   []AssemblyMaker `json:"makers"`
}

var assemblyEntry = task.Entry[bench.Assembly]{Table: "assembly",
	Head: func(a *bench.Assembly) task.Head {
		return task.Head{ID: &a.ID, Code: &a.Code, Version: &a.Version, CreatedMS: &a.CreatedMS}
	},
	Get: (*store.Tx).Assembly, Put: (*store.Tx).SaveAssembly}

// SaveAssembly names pieces that are one model printed in parts, or changes that.
func (w *Tasks) SaveAssembly(ctx context.Context, a bench.Assembly) (AssemblySheet, error) {
	if len(a.Parts) == 0 {
		return AssemblySheet{}, quantity.Errorf("parts", "are missing; say which pieces the model is printed in")
	}
	return task.Keep(ctx, w.Base, func(t *store.Tx) (AssemblySheet, error) {
		seen := map[string]bool{}
		for i, p := range a.Parts {
			at := fmt.Sprintf("parts[%d].", i)
			if _, err := t.Piece(p.PieceID); err != nil {
				return AssemblySheet{}, quantity.Errorf(at+"piece_id", "names a piece that cannot be found (%v)", err)
			}
			if seen[p.PieceID] {
				return AssemblySheet{}, quantity.Errorf(at+"piece_id", "stands twice; give it once, with how many copies the whole needs")
			}
			seen[p.PieceID] = true
		}
		kept, err := task.Put(w.Base, t, assemblyEntry, a)
		if err != nil {
			return AssemblySheet{}, err
		}
		return assemblySheet(t, kept)
	})
}

// Assemblies lists the assemblies with what is known of each.
func (w *Tasks) Assemblies(ctx context.Context) (out []AssemblySheet, err error) {
	out = []AssemblySheet{}
	err = w.Store.Read(ctx, func(t *store.Tx) error {
		all, err := t.Assemblies()
		if err != nil {
			return err
		}
		for _, a := range all {
			sheet, err := assemblySheet(t, a)
			if err != nil {
				return err
			}
			out = append(out, sheet)
		}
		return nil
	})
	return out, err
}

// mostAssemblyRuns bounds how many prints of a part are read for its sheet.
const mostAssemblyRuns = 200

func assemblySheet(t *store.Tx, a bench.Assembly) (AssemblySheet, error) {
	out := AssemblySheet{Assembly: a, Parts: []AssemblyPart{}, Makers: []AssemblyMaker{}, Complete: -1}
	makers := map[string]*assemblyMaker{}
	var order []string
	reader := printing.NewReader(t)
	for _, p := range a.Parts {
		piece, err := t.Piece(p.PieceID)
		if err != nil {
			return out, err
		}
		part := AssemblyPart{PieceID: p.PieceID, Piece: piece.Name, Copies: p.Copies, VolumeML: piece.VolumeML}
		runs, err := t.RunLines(store.RunFilter{PieceID: p.PieceID, Most: mostAssemblyRuns})
		if err != nil {
			return out, err
		}
		ids := make([]string, len(runs))
		for i, r := range runs {
			ids[i] = r.ID
		}
		sheets, err := reader.Sheets(ids...)
		if err != nil {
			return out, err
		}
		for i, r := range runs {
			sheet := sheets[i]
			loads, err := planning.LoadsOfSpecimens(reader.Piece, sheet.Specimens)
			if err != nil {
				return out, err
			}
			print := side.PrintOf(side.Narrow(sheet, p.PieceID), planning.ShareOf(loads, p.PieceID))
			part.Counts.Sum(print.Counts)
			key := r.MachineID + " " + r.ProfileID
			if makers[key] == nil {
				makers[key], order = &assemblyMaker{machine: sheet.Machine, settings: sheet.Settings, prints: map[string][]setup.Print{}}, append(order, key)
			}
			makers[key].take(p.PieceID, r.Code, print)
		}
		part.Good = part.Counts.Good()
		part.Complete = part.Good / p.Copies
		if out.Complete < 0 || part.Complete < out.Complete {
			out.Complete, out.Missing = part.Complete, piece.Name
		}
		out.VolumeML += float64(p.Copies) * piece.VolumeML
		out.Parts = append(out.Parts, part)
	}
	settings, err := t.Settings()
	if err != nil {
		return out, err
	}
	for _, key := range order {
		made, err := makers[key].whole(a, out.Parts, settings)
		if err != nil {
			return out, err
		}
		out.Makers = append(out.Makers, made)
	}
	return out, nil
}

// assemblyMaker gathers the prints of one machine and settings by piece.
type assemblyMaker struct {
	machine  bench.Machine
	settings string
	runs     []string
	prints   map[string][]setup.Print
}

func (m *assemblyMaker) take(pieceID, code string, p setup.Print) {
	if !slices.Contains(m.runs, code) { // a print that holds several parts is one
		m.runs = append(m.runs, code)
	}
	m.prints[pieceID] = append(m.prints[pieceID], p)
}

// whole adds the parts up to one model.
func (m *assemblyMaker) whole(a bench.Assembly, parts []AssemblyPart, settings bench.Settings) (AssemblyMaker, error) {
	out := AssemblyMaker{Machine: m.machine.Name, Settings: m.settings, Runs: m.runs, Wholes: -1}
	var timeS, ml, money float64
	known, priced := true, true
	var of []bench.Counts // of each print, however many of the parts it held
	at := map[string]int{}
	for i, p := range a.Parts {
		prints := m.prints[p.PieceID]
		for _, print := range prints {
			if _, seen := at[print.Code]; !seen {
				at[print.Code], of = len(of), append(of, bench.Counts{})
			}
			of[at[print.Code]].Sum(print.Counts)
		}
		counts := setup.CountsOf(prints)
		out.Judged, out.Failed = out.Judged+counts.Judged(), out.Failed+counts.Failed
		if wholes := counts.Good() / p.Copies; out.Wholes < 0 || wholes < out.Wholes {
			out.Wholes = wholes
		}
		times := setup.TimesOf(prints)
		each := setup.ResinEach(prints)
		switch {
		case len(prints) == 0:
			known, priced, out.Reason = false, false, parts[i].Piece+" was not printed here."
			continue
		case times.PerPieceS == nil || each == nil:
			known, priced, out.Reason = false, false, "The time or resin of "+parts[i].Piece+" is not on record."
			continue
		}
		timeS, ml = timeS+float64(p.Copies)**times.PerPieceS, ml+float64(p.Copies)**each
		cost, reason, err := setup.CostOf(prints, setup.Prices{WastePct: settings.WastePct, PowerW: m.machine.PowerW, EnergyPerKWh: settings.EnergyPerKWh,
			LabourPerH: settings.LabourPerH, Consumables: kit.Consumables(m.machine)})
		switch {
		case err != nil:
			return out, err
		case cost == nil || cost.PerGoodPiece == nil:
			priced = false
			if reason != "" {
				out.Reason = reason
			}
		default:
			money += float64(p.Copies) * *cost.PerGoodPiece
		}
	}
	if known {
		out.TimeS, out.ResinML = &timeS, &ml
	}
	if known && priced {
		out.Cost = &money
	}
	var err error
	out.Rate, err = overPrints(of, func(c bench.Counts) int64 { return c.Failed })
	return out, err
}
