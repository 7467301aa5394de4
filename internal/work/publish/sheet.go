package publish

import (
	"cmp"
	"slices"

	"golang.org/x/sync/errgroup"

	"ojime/internal/bench"
	"ojime/internal/core/edition"
	"ojime/internal/core/finding"
	"ojime/internal/core/rating"
	"ojime/internal/store"
	"ojime/internal/work/ballots"
	"ojime/internal/work/experiment"
	"ojime/internal/work/findings"
	"ojime/internal/work/firstdays"
	"ojime/internal/work/inspect"
	"ojime/internal/work/kit"
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
	Sheets     []printing.RunSheet
	Sliced     []slicedFile
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
	Remarks    []lived
	Materials  []string
	Measured   []measuredWith
	Open       []bench.FollowUp
	Disclosed  []kit.Disclosed
	Data       []dataTable
	Currency   string

	pictures        gallery
	live            texts.Live
	lived           []lived
	turns           map[string]int64
	referenceSheets []printing.RunSheet
	contested       []reviews.Contest
	together        *reviews.Contest
	figures         []edition.Figure
	questioned      int64
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
	if of.contested, of.together, err = reviews.All(t, reader, out.Review, out.SetUps); err != nil {
		return out, err
	}
	for _, step := range []func() error{of.comparisons, of.prints, of.judgements, of.machines, of.evidence} {
		if err := step(); err != nil {
			return out, err
		}
	}
	return out, nil
}

// gathering is a write-up on the way, within one transaction.
type gathering struct {
	*Tasks
	*sheet
	t      *store.Tx
	reader *printing.Reader
	found  findings.FindingsSheet
}

// comparisons are the sides against each other, and what was found in that.
func (g *gathering) comparisons() (err error) {
	if g.Contests, err = g.contestsOf(g.t, g.contested); err != nil {
		return err
	}
	g.Matched = matchedOf(g.together)
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
}

// prints are what was printed, how that was planned, and what was left out.
func (g *gathering) prints() (err error) {
	if g.Sheets, err = reviewRuns(g.reader, g.Review, g.SetUps); err != nil {
		return err
	}
	if g.Matrix, err = experiment.MatrixOf(g.t, g.reader, g.Review, g.NowMS()); err != nil {
		return err
	}
	if g.LeftOut, err = reviews.LeftOut(g.t, g.reader, g.Review); err != nil {
		return err
	}
	plan, err := experiment.PlanOf(g.t, g.Review.ID)
	if err != nil {
		return err
	}
	g.Planned, g.turns = plan.Words(), plan.Turns()
	if len(g.Review.Deciding) > 0 {
		decidable, err := reviews.DecidableOf(g.t, g.Review.ID)
		if err != nil {
			return err
		}
		g.Declared = decidable.Declared
	}
	if g.Sliced, err = slicedOf(g.t, g.Sheets); err != nil {
		return err
	}
	g.referenceSheets, err = g.reader.Sheets(g.Review.ReferenceIDs...)
	for _, s := range g.referenceSheets {
		if s.Reference != nil {
			g.References = append(g.References, *s.Reference)
		}
	}
	return err
}

// judgements are claims, money, and what is read over the shoulder; live figures go into the texts.
func (g *gathering) judgements() (err error) {
	if g.Claims, err = ledger.Of(g.t, g.reader, g.Review, g.SetUps, g.contested, g.NowMS()); err != nil {
		return err
	}
	if g.Disclosed, err = kit.DisclosureOf(g.t, g.Review); err != nil {
		return err
	}
	if g.Money, err = readers.MoneyOf(g.t, g.Review, g.SetUps, g.contested, g.NowMS()); err != nil {
		return err
	}
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
	g.live = texts.LiveOf(g.contested, g.Money.Prices)
	r := &g.Review
	r.Disclosure, r.Verdict, r.NotTested = g.live(r.Disclosure), g.live(r.Verdict), g.live(r.NotTested)
	for i, p := range g.Findings {
		g.Findings[i].Says = g.live(p.Says)
	}
	return nil
}

// machines are what living with them is like, their very units, their plates and the software beside them.
func (g *gathering) machines() (err error) {
	if g.lived, err = livingOf(g.t, g.SetUps); err != nil {
		return err
	}
	g.Living, g.Remarks = tableOf(g.lived), remarksOf(g.lived)
	if g.Units, err = unitsOf(g.t, g.SetUps); err != nil {
		return err
	}
	if g.Plates, err = surveyedOf(g.t, g.SetUps); err != nil {
		return err
	}
	if g.Software, err = firstdays.SoftwareOf(g.t, append([]string{""}, g.Review.PieceIDs...)...); err != nil { // of its pieces alone, also where it names none
		return err
	}
	runs := make([]bench.Run, len(g.Sheets))
	for i, s := range g.Sheets {
		runs[i] = s.Run
	}
	g.Programs, err = tally.ProgramsOf(runs)
	g.OnComputer = len(g.Programs)+len(g.Software.Programs) > 0
	return err
}

// evidence is what the figures were read from: panels, photographs, instruments, scales, materials and tables. The tables are
// written while the rest is read.
func (g *gathering) evidence() (err error) {
	scales, err := inspect.AllScales(g.t)
	if err != nil {
		return err
	}
	closed, err := ballots.Closed(g.t, g.Review.ID)
	if err != nil {
		return err
	}
	of := published{review: g.Review, sheets: g.Sheets, references: g.referenceSheets, turns: g.turns, scales: scales, living: g.lived, sliced: g.Sliced, panels: closed, findings: g.found, claims: g.Claims}
	var tables errgroup.Group
	tables.Go(func() (err error) {
		g.Data, err = dataOf(of)
		return err
	})
	return cmp.Or(g.beside(scales), tables.Wait())
}

// beside is what stands beside the tables.
func (g *gathering) beside(scales []rating.Scale) (err error) {
	if g.Panels, err = panelsOf(g.t, g.Review.ID); err != nil {
		return err
	}
	g.pictures = galleryOf(slices.Concat(g.Sheets, g.referenceSheets))
	if g.Materials, err = materialsOf(g.t, g.Sheets); err != nil {
		return err
	}
	if g.Measured, err = measuredBy(g.t, slices.Concat(g.Sheets, g.referenceSheets), scales); err != nil {
		return err
	}
	if g.Open, err = g.t.FollowUpsOfReview(g.Review.ID); err != nil {
		return err
	}
	weighed, err := readers.Of(g.t, g.Review.ID, g.SetUps, g.contested, g.Claims, g.told(), g.NowMS())
	g.Readers = weighed.Readers
	return err
}

// told are the findings with the figures of the record in their words.
func (g *gathering) told() findings.FindingsSheet {
	out := g.found
	out.Picked = g.Findings
	return out
}
