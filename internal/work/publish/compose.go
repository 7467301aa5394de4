package publish

import (
	"fmt"
	"strings"

	"ojime/internal/bench"
	"ojime/internal/core/edition"
	"ojime/internal/work/compare"
)

// eachSheet is the comparison of one piece, for the parts that stand in it.
type eachSheet struct {
	Contest
	First    compare.Comparison
	Currency string
	Plot     *shot
	Sized    bool
	Shown    []shownRow
}

// ownSheet is a part of the reviewer's own.
type ownSheet struct {
	Title, Text string
	Shots       []shot
}

// composed is a write-up on the way: its parts in order, and what was left out of it although there is something to say.
type composed struct {
	*sheet
	texts []string
	plots []string
	OutOf []string
}

// written puts a write-up together from its parts, in the order of its reviewer.
func written(of sheet) (article, error) {
	c := &composed{sheet: &of}
	own := map[string]ownSheet{}
	for _, b := range of.Review.Blocks { // the reviewer's own pictures have room first
		if b.Own() && !b.Out {
			own[b.Key] = ownSheet{b.Title, c.live(b.Text), c.pictures.chosen(b.Pictures)}
		}
	}
	if err := c.add("head", of); err != nil {
		return article{}, err
	}
	for _, p := range arranged(of.Review.Blocks, false) {
		if err := c.part(p, own); err != nil {
			return article{}, err
		}
	}
	if err := c.add("foot", c); err != nil {
		return article{}, err
	}
	return article{text: []byte(strings.Join(c.texts, "\n\n") + "\n"), title: of.Review.Question, plots: c.plots, pictures: c.pictures.shown, prints: len(of.Sheets), figures: of.figures, questioned: of.questioned, gaps: of.Gaps}, nil
}

// part writes one part, or notes that there would be something in it.
func (c *composed) part(p edition.Part, own map[string]ownSheet) error {
	switch {
	case edition.Own(p.Key) && p.Out:
		return nil
	case edition.Own(p.Key):
		return c.add("own", own[p.Key])
	case p.Key == comparisons && p.Out:
		if len(c.Contests) > 0 {
			c.OutOf = append(c.OutOf, "the comparison of each piece")
		}
		return nil
	case p.Key == comparisons:
		return c.comparisons()
	case p.Out:
		return c.without(p.Key, c.sheet)
	}
	return c.add(p.Key, c.sheet)
}

// comparisons writes the comparison of each piece.
func (c *composed) comparisons() error {
	for _, contest := range c.Contests {
		e := eachSheetOf(contest, c.Currency)
		if err := c.add("comparison", e); err != nil {
			return err
		}
		for _, p := range arranged(c.Review.Blocks, true) {
			if err := c.inEach(p, e); err != nil {
				return err
			}
		}
	}
	return nil
}

func eachSheetOf(contest Contest, currency string) eachSheet {
	e := eachSheet{Contest: contest, First: contest.Results[0], Currency: currency}
	for _, s := range e.First.Sides {
		e.Sized = e.Sized || s.Dimensions != nil || len(s.Corrections) > 0
	}
	return e
}

// partOfEach is what there is to say in a part of a comparison, its plot and pictures by their names alone.
func partOfEach(key string, e eachSheet) (string, error) {
	if key == "each_plot" && dotPlot(e.Contest) != "" {
		e.Plot = &shot{}
	}
	for _, p := range e.First.Pictures {
		e.Shown = append(e.Shown, shownRow{Pictures: p})
	}
	return part(key, e)
}

// inEach writes one part of the comparison of a piece.
func (c *composed) inEach(p edition.Part, e eachSheet) error {
	if p.Out {
		if p.Key == "each_photographs" || p.Key == "each_plot" {
			return nil // the figures beside them say the same
		}
		return c.without(p.Key, e)
	}
	switch p.Key {
	case "each_plot":
		if drawing := dotPlot(e.Contest); drawing != "" {
			c.plots = append(c.plots, drawing)
			e.Plot = &shot{Path: plotPath(len(c.plots)), Caption: "Sides of " + e.Piece + " with their intervals"}
		}
	case "each_photographs":
		e.Shown = c.pictures.sideBySide(e.First)
	}
	return c.add(p.Key, e)
}

func plotPath(n int) string { return fmt.Sprintf("plots/%d.svg", n) }

func (c *composed) add(name string, data any) error {
	text, err := part(name, data)
	if text != "" {
		c.texts = append(c.texts, text)
	}
	return err
}

// without notes a part that was left out, where there would be something in it.
func (c *composed) without(key string, data any) error {
	text, err := part(key, data)
	if name, _ := nameOf(key); text != "" {
		for _, known := range c.OutOf {
			if known == name {
				return err
			}
		}
		c.OutOf = append(c.OutOf, name)
	}
	return err
}

// usedBy are the pictures of a version, each once.
func usedBy(shots []shot) (out bench.PublishedPictures) {
	seen := map[string]bool{}
	out = bench.PublishedPictures{}
	for _, s := range shots {
		if !seen[s.Path] {
			seen[s.Path] = true
			out = append(out, bench.PublishedPicture{Name: s.Path, SHA256: s.SHA256})
		}
	}
	return out
}
