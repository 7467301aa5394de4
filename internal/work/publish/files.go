package publish

import (
	"context"
	"fmt"
	"strings"

	"ojime/internal/core/edition"
	"ojime/internal/store"
	"ojime/internal/work/cards"
)

// File is a file of a review as it goes out.
type File struct {
	Name string
	Data []byte
}

// Going is a review in all of its forms, of one instant: its text, page, plots, pictures, settings, script, tables and cards,
// with the figures that it says.
type Going struct {
	Code, Question string
	AtMS           int64
	RunIDs         []string
	Figures        []edition.Figure
	Files          []File
}

// Forms writes a review in all of its forms.
func (w *Tasks) Forms(ctx context.Context, reviewID string) (out Going, err error) {
	err = w.Store.Read(ctx, func(t *store.Tx) error {
		of, err := w.sheetOf(t, reviewID)
		if err != nil {
			return err
		}
		out, err = w.forms(of)
		return err
	})
	return out, err
}

func (w *Tasks) forms(of sheet) (Going, error) {
	out := Going{Code: of.Review.Code, Question: of.Review.Question, Figures: of.figures, AtMS: w.NowMS()}
	for _, s := range of.Sheets {
		out.RunIDs = append(out.RunIDs, s.Run.ID)
	}
	add := func(name string, data []byte, err error) error {
		out.Files = append(out.Files, File{name, data})
		return err
	}
	a, err := written(of)
	if err != nil {
		return out, err
	}
	page, err := w.pageOf(webPage{text: a.text, title: a.title, plots: a.plots, pictures: usedBy(a.pictures), prints: a.prints, atMS: w.NowMS()})
	if err := add("review.html", page, err); err != nil {
		return out, err
	}
	if err := add("review.md", a.text, nil); err != nil {
		return out, err
	}
	settings, err := w.settingsPage(of)
	if err := add("settings.html", settings, err); err != nil {
		return out, err
	}
	script, err := part("script", scriptOf(of))
	if err := add("script.md", []byte(script+"\n"), err); err != nil {
		return out, err
	}
	for i, drawing := range a.plots {
		if err := add(plotPath(i+1), []byte(aloneSVG(drawing)), nil); err != nil {
			return out, err
		}
	}
	for _, p := range usedBy(a.pictures) {
		data, err := w.Store.Photographs().Read(p.SHA256)
		if err := add(p.Name, data, err); err != nil {
			return out, err
		}
	}
	for _, table := range of.Data {
		if err := add("tables/"+table.Name+".csv", table.CSV, nil); err != nil {
			return out, err
		}
	}
	for _, f := range of.Findings {
		for _, shape := range []string{"wide", "tall"} {
			data, err := draftCard(f, of, w.NowMS()).PNG(cards.Shapes[shape])
			if err := add(fmt.Sprintf("cards/%s-%s.png", f.Finding.Code, shape), data, err); err != nil {
				return out, err
			}
		}
	}
	return out, nil
}

// aloneSVG is the drawing of a plot as a file of its own, in the colours of the light page.
func aloneSVG(drawing string) string {
	_, rest, _ := strings.Cut(drawing, "<svg ")
	inner, _, _ := strings.Cut(rest, "</svg>")
	return `<svg xmlns="http://www.w3.org/2000/svg" style="color:#16191a;background:#eff3f3;font-family:sans-serif" ` + strings.ReplaceAll(inner, "var(--line)", "#b9c3c4") + "</svg>\n"
}
