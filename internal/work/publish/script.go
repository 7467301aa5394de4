package publish

import (
	"context"
	"fmt"
	"strings"

	"ojime/internal/core/prose"
	"ojime/internal/say"
	"ojime/internal/store"
	"ojime/internal/work/findings"
	"ojime/internal/work/kit"
	"ojime/internal/work/printing"
)

// cue is a finding to be told: what to say, how sure it is, and what to show meanwhile.
type cue struct {
	Number  int
	Title   string
	Says    string
	Grade   string
	Because []string
	Show    []string
	Scope   string
}

// scriptSheet is a review to be told, its findings as cues in the reviewer's order.
type scriptSheet struct {
	sheet
	Cues               []cue
	Told               []string
	AfterCues, LastCue int
	SpokenS            float64
}

// Script is a review as cues to be told by.
func (w *Tasks) Script(ctx context.Context, reviewID string) (out []byte, err error) {
	err = w.Store.Read(ctx, func(t *store.Tx) error {
		of, err := w.sheetOf(t, reviewID)
		if err != nil {
			return err
		}
		text, err := part("script", scriptOf(of))
		out = []byte(text + "\n")
		return err
	})
	return out, err
}

func scriptOf(of sheet) scriptSheet {
	out := scriptSheet{sheet: of}
	told := []string{of.Review.Question, of.Review.Verdict, of.Review.Disclosure, of.Review.NotTested}
	for i, f := range of.Findings {
		c := cue{Number: i + 2, Title: titleOf(f, of), Says: f.Says, Grade: f.Grade(), Show: showFor(f, of)}
		if f.Now != nil {
			c.Because, c.Scope = f.Now.Because, f.Now.Scope
		}
		told = append(told, f.Says)
		out.Cues = append(out.Cues, c)
	}
	for _, d := range of.Disclosed {
		if len(d.Says) > 0 && (d.Kind == "machine" || d.Kind == "resin" || d.Kind == "review") {
			out.Told = append(out.Told, d.Name+": "+strings.Join(d.Says, "; "))
		}
	}
	for _, r := range of.Readers {
		told = append(told, r.Says...)
	}
	out.AfterCues, out.LastCue = len(out.Cues)+2, len(out.Cues)+2
	if len(of.Readers) > 0 {
		out.LastCue++
	}
	out.SpokenS = prose.SpokenS(told...)
	return out
}

// titleOf is what a finding is about: its measure and piece, a panel, or the reviewer's own word.
func titleOf(f findings.PickedFinding, of sheet) string {
	for _, c := range of.Contests {
		for _, m := range c.Results[0].Measures {
			if m.Key == f.Finding.Measure && c.PieceID == f.Finding.PieceID {
				return m.Label + ", " + c.Piece
			}
		}
	}
	switch {
	case f.Finding.PanelID != nil:
		return "What blind judges said"
	case f.Finding.Own():
		return "In your own words"
	}
	return "All pieces together"
}

// showFor is what there is to show for a finding: the plot of its piece, photographs of its sides, and the prints themselves.
func showFor(f findings.PickedFinding, of sheet) (out []string) {
	for _, c := range of.Contests {
		if c.PieceID != f.Finding.PieceID || f.Finding.PieceID == "" {
			continue
		}
		for _, p := range c.Results[0].Pictures {
			out = append(out, "photographs of "+strings.TrimSuffix(pictureLine(p), "."))
		}
		out = append(out, "the plot of "+c.Piece)
	}
	if f.Now == nil {
		return out
	}
	for _, r := range f.Now.Rests {
		if len(r.Runs) > 0 {
			out = append(out, fmt.Sprintf("a copy of %s, from %s", r.Name, say.List(r.Runs)))
		}
	}
	return out
}

// settingsCard is one set of settings, whole, and what it did.
type settingsCard struct {
	Name, Machine, Resin, Evidence string
	Lines                          []string
}

// SettingsSheet is the settings of a review to repeat its prints by, as one HTML file.
func (w *Tasks) SettingsSheet(ctx context.Context, reviewID string) (out []byte, err error) {
	err = w.Store.Read(ctx, func(t *store.Tx) error {
		of, err := w.sheetOf(t, reviewID)
		if err != nil {
			return err
		}
		out, err = w.settingsPage(of)
		return err
	})
	return out, err
}

func (w *Tasks) settingsPage(of sheet) ([]byte, error) {
	text, err := part("settings_sheet", map[string]any{"Review": of.Review, "Settings": cardsOf(of.Sheets)})
	if err != nil {
		return nil, err
	}
	return w.pageOf(webPage{text: []byte(text), title: "Settings to repeat: " + of.Review.Question, prints: len(of.Sheets), atMS: w.NowMS()})
}

func cardsOf(sheets []*printing.RunSheet) (out []settingsCard) {
	at := map[string]int{}
	prints, lost, specimens := map[string]int64{}, map[string]int64{}, map[string]int64{}
	for _, s := range sheets {
		id := s.Profile.ID
		prints[id]++
		lost[id] += s.Counts.Failed
		specimens[id] += s.Counts.Whole + s.Counts.Micro + s.Counts.Lost
		if _, known := at[id]; known {
			continue
		}
		at[id] = len(out)
		out = append(out, settingsCard{Name: s.Settings, Machine: s.Machine.Name, Resin: s.Resin.Name, Lines: kit.SettingsWords(s.Profile)})
	}
	for id, i := range at {
		out[i].Evidence = fmt.Sprintf("%d of %s failed, in %s.", lost[id], say.Counted(specimens[id], "specimen"), say.Counted(prints[id], "print"))
	}
	return out
}
