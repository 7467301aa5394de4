package publish

import (
	"cmp"
	"slices"
	"strings"
	"sync"

	"ojime/internal/bench"
	"ojime/internal/core/audit"
	"ojime/internal/core/edition"
	"ojime/internal/core/finding"
	"ojime/internal/core/quantity"
	"ojime/internal/store"
	"ojime/internal/work/dataset"
	"ojime/internal/work/disclosure"
	"ojime/internal/work/experiment"
	"ojime/internal/work/findings"
	"ojime/internal/work/firstdays"
	"ojime/internal/work/ledger"
	"ojime/internal/work/printing"
	"ojime/internal/work/readers"
	"ojime/internal/work/reviews"
	"ojime/internal/work/tally"
	"ojime/internal/work/texts"
)

// sheet is all that a write-up is made of, computed from the record as it is.
type sheet struct {
	Review     bench.Review
	AnswerSays string
	SetUps     []reviews.SetUp
	Matrix     experiment.Matrix
	Planned    []string
	Declared   []string
	LeftOut    []reviews.LeftOutPrint
	Contests   []Contest
	Matched    *Matched
	Findings   []findings.PickedFinding
	Sheets     []*printing.RunSheet
	Sliced     []dataset.SlicedFile
	References []bench.Reference
	Readers    []readers.ReaderSheet
	Money      readers.MoneySheet
	Claims     ledger.LedgerSheet
	Panels     []voted
	OnComputer bool
	Programs   []tally.PrintsOfProgram
	Software   firstdays.Software
	Units      []unit
	Plates     []surveyed
	Living     *livingTable
	Remarks    []dataset.Lived
	Materials  []string
	Measured   []measuredWith
	Open       []bench.FollowUp
	Disclosed  []disclosure.Disclosed
	Data       []dataset.Table
	Currency   string
	// Gaps are the parts that can't be worked out, each with the sentence that stands in its place.
	Gaps quantity.Gaps

	pictures   gallery
	live       texts.Live
	contested  []reviews.Contest
	together   *reviews.Contest
	figures    []edition.Figure
	questioned int64
}

// sheetOf gathers what a review's write-up is made of.
func (w *Tasks) sheetOf(t *store.Tx, reviewID string) (out sheet, err error) {
	if out.Review, err = t.Review(reviewID); err != nil {
		return out, err
	}
	settings, err := t.Settings()
	if err != nil {
		return out, err
	}
	out.Currency = settings.Currency
	if out.SetUps, err = reviews.SetUps(t, out.Review); err != nil {
		return out, err
	}
	reader := printing.NewReader(t)
	of := gathering{Tasks: w, t: t, reader: reader, sheet: &out}
	contests := reviews.BeginAll(t, reader, out.Review, out.SetUps)
	defer of.writing.Wait()                                    // nothing is left on when it fails
	err = of.inOrder(of.machines(), of.printed(), of.prints()) // read while the contests are worked out
	if of.contested, of.together, err = waited(contests, err); err != nil {
		return out, err
	}
	err = of.inOrder(of.comparisons(), of.judgements(), of.evidence())
	return out, err
}

// step gathers one part of a write-up.
type step struct {
	part string
	work func() error
}

// inOrder does one step after another. A part that can't be worked out is left with its reason, and blocks no other; an error
// of the database or the program ends it.
func (g *gathering) inOrder(steps ...[]step) error {
	for _, s := range slices.Concat(steps...) {
		if err := g.Gaps.Leave(s.part, s.work()); err != nil {
			return err
		}
	}
	return nil
}

// waited is what contests came to; they are waited for also where something else went wrong.
func waited(contests func() ([]reviews.Contest, *reviews.Contest, error), before error) ([]reviews.Contest, *reviews.Contest, error) {
	each, together, err := contests()
	return each, together, cmp.Or(before, err)
}

// gathering is a write-up on the way, within one transaction.
type gathering struct {
	*Tasks
	*sheet
	t      *store.Tx
	reader *printing.Reader
	found  findings.FindingsSheet
	// tables is what they are written from, writing is on until they are.
	tables  dataset.Source
	writing sync.WaitGroup
}

// comparisons are the sides against each other, and what was found in that.
func (g *gathering) comparisons() []step {
	return []step{
		{"Comparisons", func() error {
			for i, c := range g.contested {
				g.Contests = append(g.Contests, Contest{PieceID: c.PieceID, Piece: c.Piece, Results: c.Results})
				g.gapsOf(c)
				filled, err := reviews.FilledOf(g.t, g.planning, c.Results[0], c.PieceID, 1)
				if err := g.Gaps.Leave(c.Piece+": time of a piece at other fills", err); err != nil {
					return err
				}
				g.Contests[i].Filled = filled
			}
			if g.together != nil {
				g.gapsOf(*g.together)
			}
			g.Matched = matchedOf(g.together)
			return nil
		}},
		{"Test plan", func() error { g.Matrix.Tells = fairTells(g.Matrix.Tells, g.contested); return nil }},
		{"Findings", func() (err error) {
			if g.found, err = findings.Of(g.t, g.Review, g.SetUps, g.contested, g.together); err != nil {
				return err
			}
			g.Findings = slices.Clone(g.found.Picked)
			var grades []string
			for _, f := range g.Findings {
				grades = append(grades, f.Grade())
			}
			if g.Review.Verdict != "" {
				g.AnswerSays = finding.Answer(grades)
			}
			return nil
		}},
	}
}

// mostReasons is how many reasons are named for why prints are not comparable.
const mostReasons = 3

// fairTells are the sentences on which effects the prints separate. They count combinations alone: where the fairness check finds
// prints not comparable, something other than the factors under test goes along with them, and that is said instead. How few
// prints there are goes along with nothing.
func fairTells(tells []string, contests []reviews.Contest) []string {
	var why []string
	for _, c := range contests {
		for _, r := range c.Results {
			for _, a := range r.Audits {
				if a.Result.Grade != audit.NotComparable {
					continue
				}
				for _, row := range a.Result.Rows {
					if row.Weight == audit.Major && row.State != audit.Unknown && row.Factor != "prints" && !slices.Contains(why, row.Sentence) {
						why = append(why, row.Sentence)
					}
				}
			}
		}
	}
	if len(tells) == 0 || len(why) == 0 {
		return tells
	}
	return []string{"Which factor a difference comes from is not said: the fairness check finds prints not comparable. " + strings.Join(why[:min(len(why), mostReasons)], " ")}
}

// gapsOf takes over what a comparison could not work out.
func (g *gathering) gapsOf(c reviews.Contest) {
	for _, gap := range c.Results[0].Gaps {
		g.Gaps = append(g.Gaps, quantity.Uncomputed{Part: c.Piece + ": " + gap.Part, Why: gap.Why})
	}
}

// printed are the prints and references with all that was read of them; their tables are written while the rest is read.
func (g *gathering) printed() []step {
	return []step{{"Prints", func() error {
		of, err := dataset.Read(g.t, g.reader, g.Review, g.SetUps)
		if err != nil {
			return err
		}
		g.tables, g.Sheets, g.Sliced, g.Planned = of, of.Sheets, of.Sliced, of.Plan.Words()
		g.Living, g.Remarks = tableOf(of.Living), remarksOf(of.Living)
		for _, s := range of.References {
			if s.Reference != nil {
				g.References = append(g.References, *s.Reference)
			}
		}
		g.writing.Go(func() { g.Data = dataset.Tables(of, dataset.Recorded) })
		return nil
	}}}
}

// prints are how what was printed was planned, and what was left out.
func (g *gathering) prints() []step {
	return []step{
		{"Test plan", func() (err error) {
			g.Matrix, err = experiment.MatrixOf(g.t, g.reader, g.Review, g.NowMS())
			return err
		}},
		{"Prints left out", func() (err error) { g.LeftOut, err = reviews.LeftOut(g.t, g.reader, g.Review); return err }},
		{"Declared questions", func() error {
			if len(g.Review.Deciding) == 0 {
				return nil
			}
			decidable, err := reviews.DecidableOf(g.t, g.Review.ID)
			g.Declared = decidable.Declared
			return err
		}},
	}
}

// judgements are claims, money, and what is read over the shoulder; live figures go into the texts.
func (g *gathering) judgements() []step {
	return []step{
		{"Claims", func() (err error) {
			g.Claims, err = ledger.Of(g.t, g.reader, g.Review, g.SetUps, g.contested, g.NowMS())
			return err
		}},
		{"Disclosure", func() (err error) { g.Disclosed, err = disclosure.Of(g.t, g.Review); return err }},
		{"Costs", func() (err error) {
			g.Money, err = readers.MoneyOf(g.t, g.Review, g.SetUps, g.contested, g.NowMS())
			return err
		}},
		{"Text check", g.checkTexts},
		{"Figures in your texts", func() error {
			g.live = texts.LiveOf(g.contested, g.Money.Prices)
			r := &g.Review
			r.Disclosure, r.Verdict, r.NotTested = g.live(r.Disclosure), g.live(r.Verdict), g.live(r.NotTested)
			for i, p := range g.Findings {
				g.Findings[i].Says = g.live(p.Says)
			}
			return nil
		}},
	}
}

// checkTexts counts the places of the review's texts that are questioned.
func (g *gathering) checkTexts() error {
	read, err := texts.ReadOf(g.t, g.Review, g.contested, g.found, g.Claims, g.Money.Prices)
	if err != nil {
		return err
	}
	for _, one := range read.Texts {
		g.questioned += int64(len(one.Remarks))
	}
	for _, f := range read.Figures {
		g.figures = append(g.figures, edition.Figure(f))
	}
	return nil
}

// machines are their very units, their plates and the software beside them.
func (g *gathering) machines() []step {
	return []step{
		{"Units tested", func() (err error) { g.Units, err = unitsOf(g.t, g.SetUps); return err }},
		{"Plates", func() (err error) { g.Plates, err = surveyedOf(g.t, g.SetUps); return err }},
		{"Software", func() (err error) { // of its pieces alone, also where it names none
			g.Software, err = firstdays.SoftwareOf(g.t, append([]string{""}, g.Review.PieceIDs...)...)
			return err
		}},
	}
}

// evidence is what the figures were read from: panels, photographs, instruments, scales, materials and tables.
func (g *gathering) evidence() []step {
	return []step{
		{"Blind panels", func() (err error) { g.Panels, err = panelsOf(g.t, g.Review.ID); return err }},
		{"Photographs", func() error { g.pictures = galleryOf(g.ofAll()); return nil }},
		{"Materials", func() (err error) { g.Materials, err = materialsOf(g.t, g.Sheets, g.NowMS()); return err }},
		{"How we measured", func() (err error) { g.Measured, err = measuredBy(g.t, g.ofAll(), g.tables.Scales); return err }},
		{"Follow-ups", func() (err error) { g.Open, err = g.t.FollowUpsOfReview(g.Review.ID); return err }},
		{"Who it suits", func() error {
			weighed, err := readers.Of(g.t, g.Review.ID, g.SetUps, g.contested, g.Claims, g.told(), g.NowMS())
			g.Readers = weighed.Readers
			return err
		}},
		{"Programs", func() (err error) {
			runs := make([]bench.Run, len(g.Sheets))
			for i, s := range g.Sheets {
				runs[i] = s.Run
			}
			g.Programs, err = tally.ProgramsOf(runs)
			g.OnComputer = len(g.Programs)+len(g.Software.Programs) > 0
			return err
		}},
		{"Tables", func() error {
			g.tables.Findings, g.tables.Claims = g.found, g.Claims
			judged := dataset.Tables(g.tables, dataset.Judged)
			g.writing.Wait()
			g.Data = append(g.Data, judged...)
			return nil
		}},
	}
}

// ofAll are the prints and the references.
func (g *gathering) ofAll() []*printing.RunSheet { return slices.Concat(g.Sheets, g.tables.References) }

// told are the findings with the figures of the record in their words.
func (g *gathering) told() findings.FindingsSheet {
	out := g.found
	out.Picked = g.Findings
	return out
}
