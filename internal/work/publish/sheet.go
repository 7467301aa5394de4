package publish

import (
	"cmp"
	"slices"
	"sync"

	"ojime/internal/bench"
	"ojime/internal/core/edition"
	"ojime/internal/core/finding"
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

	pictures   gallery
	live       texts.Live
	filled     []*Filled
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
	defer of.writing.Wait()                           // nothing is left on when it fails
	err = inOrder(of.machines, of.printed, of.prints) // read while the contests are worked out
	if of.contested, of.together, err = waited(contests, err); err != nil {
		return out, err
	}
	err = inOrder(of.comparisons, of.judgements, of.evidence)
	return out, err
}

// inOrder does one step after another, until one fails.
func inOrder(steps ...func() error) error {
	for _, step := range steps {
		if err := step(); err != nil {
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
func (g *gathering) comparisons() (err error) {
	for i, c := range g.contested {
		g.Contests = append(g.Contests, Contest{PieceID: c.PieceID, Piece: c.Piece, Results: c.Results, Filled: g.filled[i]})
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

// printed are the prints and references with all that was read of them; their tables are written while the rest is read.
func (g *gathering) printed() (err error) {
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
}

// prints are how what was printed was planned, and what was left out.
func (g *gathering) prints() (err error) {
	if g.Matrix, err = experiment.MatrixOf(g.t, g.reader, g.Review, g.NowMS()); err != nil {
		return err
	}
	if g.LeftOut, err = reviews.LeftOut(g.t, g.reader, g.Review); err != nil {
		return err
	}
	if len(g.Review.Deciding) > 0 {
		decidable, err := reviews.DecidableOf(g.t, g.Review.ID)
		if err != nil {
			return err
		}
		g.Declared = decidable.Declared
	}
	if g.filled, err = g.filledOf(g.t, reviews.Contested(g.Review, g.SetUps)); err != nil {
		return err
	}
	return nil
}

// judgements are claims, money, and what is read over the shoulder; live figures go into the texts.
func (g *gathering) judgements() (err error) {
	if g.Claims, err = ledger.Of(g.t, g.reader, g.Review, g.SetUps, g.contested, g.NowMS()); err != nil {
		return err
	}
	if g.Disclosed, err = disclosure.Of(g.t, g.Review); err != nil {
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

// machines are their very units, their plates and the software beside them.
func (g *gathering) machines() (err error) {
	if g.Units, err = unitsOf(g.t, g.SetUps); err != nil {
		return err
	}
	if g.Plates, err = surveyedOf(g.t, g.SetUps); err != nil {
		return err
	}
	if g.Software, err = firstdays.SoftwareOf(g.t, append([]string{""}, g.Review.PieceIDs...)...); err != nil { // of its pieces alone, also where it names none
		return err
	}
	return nil
}

// evidence is what the figures were read from: panels, photographs, instruments, scales, materials and tables.
func (g *gathering) evidence() (err error) {
	if err := g.beside(); err != nil {
		return err
	}
	runs := make([]bench.Run, len(g.Sheets))
	for i, s := range g.Sheets {
		runs[i] = s.Run
	}
	if g.Programs, err = tally.ProgramsOf(runs); err != nil {
		return err
	}
	g.OnComputer = len(g.Programs)+len(g.Software.Programs) > 0
	g.tables.Findings, g.tables.Claims = g.found, g.Claims
	judged := dataset.Tables(g.tables, dataset.Judged)
	g.writing.Wait()
	g.Data = append(g.Data, judged...)
	return nil
}

// beside is what stands beside the tables.
func (g *gathering) beside() (err error) {
	printed := slices.Concat(g.Sheets, g.tables.References)
	if g.Panels, err = panelsOf(g.t, g.Review.ID); err != nil {
		return err
	}
	g.pictures = galleryOf(printed)
	if g.Materials, err = materialsOf(g.t, g.Sheets, g.NowMS()); err != nil {
		return err
	}
	if g.Measured, err = measuredBy(g.t, printed, g.tables.Scales); err != nil {
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
