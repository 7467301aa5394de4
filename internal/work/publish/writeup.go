package publish

import (
	"bytes"
	"context"
	"fmt"
	"strings"
	"text/template"

	"ojime/internal/bench"
	"ojime/internal/core/quantity"
	"ojime/internal/say"
	"ojime/internal/store"
	"ojime/internal/work/compare"
	"ojime/internal/work/printing"
	"ojime/internal/work/task"
)

// Pair is one comparison of a write-up.
type Pair struct {
	Piece   string
	Results []compare.Comparison
}

type writeUpKey struct{ reviewID string }

// WriteUp is a review as Markdown, its numbers computed anew from the record when that
// has changed.
func (w *Tasks) WriteUp(ctx context.Context, reviewID string) ([]byte, error) {
	return task.Recall(&w.Memory, w.Store.Changes(), writeUpKey{reviewID}, func() ([]byte, error) {
		return w.writeUp(ctx, reviewID)
	})
}

func (w *Tasks) writeUp(ctx context.Context, reviewID string) (out []byte, err error) {
	err = w.Store.Read(ctx, func(t *store.Tx) error {
		review, err := t.Review(reviewID)
		if err != nil {
			return err
		}
		settings, err := t.Settings()
		if err != nil {
			return err
		}
		setups, err := compare.SetUps(t, review)
		if err != nil {
			return err
		}
		reader := printing.NewReader(t)
		pairs, err := pairsOf(t, reader, review, setups)
		if err != nil {
			return err
		}
		sheets, err := reviewRuns(reader, setups)
		if err != nil {
			return err
		}
		var b bytes.Buffer
		err = markdown.Execute(&b, map[string]any{"Review": review, "SetUps": setups, "Pairs": pairs, "Sheets": sheets, "Currency": settings.Currency})
		out = b.Bytes()
		return err
	})
	return out, err
}

// questionsWrittenUp are audited in a write-up, in this order.
var questionsWrittenUp = []string{"time", "detail", "dimension", "failure", "cost"}

// pairsOf compares, for each piece, the newest set-up of every machine with
// that of the machine before it, once for each question.
func pairsOf(t *store.Tx, reader *printing.Reader, review bench.Review, setups []compare.SetUp) ([]Pair, error) {
	var out []Pair
	for _, pieceID := range review.PieceIDs {
		var sides []compare.SetUp
		for _, machineID := range review.MachineIDs {
			for i := len(setups) - 1; i >= 0; i-- {
				if setups[i].PieceID == pieceID && setups[i].MachineID == machineID {
					sides = append(sides, setups[i])
					break
				}
			}
		}
		for i := 1; i < len(sides); i++ {
			pair := Pair{Piece: sides[i].Piece}
			m, err := compare.Match(t, reader, compare.ComparisonRequest{ARunIDs: sides[i-1].RunIDs, BRunIDs: sides[i].RunIDs, PieceID: pieceID, UnderTest: review.UnderTest, Policy: review.Policy})
			if err != nil {
				return nil, err
			}
			for _, q := range questionsWrittenUp {
				c, err := m.Ask(q)
				if err != nil {
					return nil, err
				}
				pair.Results = append(pair.Results, c)
			}
			out = append(out, pair)
		}
	}
	return out, nil
}

// markdown is the write-up. Each figure stands with its unit, n and interval.
var markdown = escaping(template.Must(template.New("write-up").Funcs(template.FuncMap{
	"policy":  func(p string) string { return strings.ReplaceAll(p, "_", " ") },
	"inline":  inline,
	"or":      written,
	"clock":   func(s *float64) string { return say.Duration(*s) },
	"percent": say.Percent,
	"rate": func(v *float64, ci *quantity.Interval, upper *float64) string {
		switch {
		case v == nil:
			return "no trials"
		case upper != nil:
			return "none seen; up to " + say.Percent(*upper)
		}
		return fmt.Sprintf("%s (%s to %s)", say.Percent(*v), say.Percent(ci[0]), say.Percent(ci[1]))
	},
	"money": func(currency string, v *float64) string {
		if v == nil {
			return "not known"
		}
		return fmt.Sprintf("%s %.2f", currency, *v)
	},
	"size": func(v *float64) string {
		if v == nil {
			return "none"
		}
		return say.Figure(*v) + " mm"
	},
	"micrometres": say.Micrometres,
	"plain":       func(mm float64) string { return fmt.Sprintf("%.0f µm", 1000*mm) },
	"grade":       say.Words,
	"settings":    settingsLines,
	"conditions":  conditionLines,
	"first":       func(list []compare.Comparison) compare.Comparison { return list[0] },
	"sides":       func(c compare.Comparison) []compare.Side { return []compare.Side{c.A, c.B} },
	"join":        strings.Join,
	"letter":      func(i int) string { return string(rune('A' + i)) },
}).Parse(`# {{.Review.Question}}

Readers: {{or .Review.Readers "not stated"}}. Settings: {{policy .Review.Policy}}. Under test: {{or (join .Review.UnderTest ", ") "the machine"}}.

**Disclosure.** {{or .Review.Disclosure "Not stated yet: who supplied and who paid belongs here."}}

## What was printed

| Set-up | Piece | Runs | Specimens |
|---|---|---|---|
{{range .SetUps}}| {{.Label}} | {{.Piece}} | {{join .Runs ", "}} | {{.Specimens}} |
{{else}}| nothing yet | | | |
{{end}}
### Settings

{{range settings .Sheets}}- {{.}}
{{else}}Nothing was printed yet.
{{end}}
### Each print and its conditions

{{range conditions .Sheets}}- {{.}}
{{else}}Nothing was printed yet.
{{end}}{{$currency := .Currency}}{{range .Pairs}}{{with first .Results}}
## {{.A.Piece}}: {{.A.Label}} (A) against {{.B.Label}} (B)

What it put to the test: {{.A.Difficulty}}
{{end}}
### How fair each comparison is

{{range .Results}}- **{{.Question}}**: {{grade .Audit.Grade}}.{{range .Audit.Rows}}{{if ne .Weight "none"}}
  - {{.Sentence}}{{end}}{{end}}
{{end}}{{with first .Results}}{{range .PolicyNotes}}- {{.}}
{{end}}{{range .Knots}}- Changed between these runs: {{.}}.
{{end}}
### Figures

| | A | B |
|---|---|---|
| Print time a plate, measured | {{with .A.ActualS}}{{clock .}}{{else}}not known{{end}} (n = {{.A.ActualN}}) | {{with .B.ActualS}}{{clock .}}{{else}}not known{{end}} (n = {{.B.ActualN}}) |
| Print time a piece, measured | {{with .A.PerPieceS}}{{clock .}}{{else}}not known{{end}} | {{with .B.PerPieceS}}{{clock .}}{{else}}not known{{end}} |
| Our estimate a plate, computed | {{with .A.OurS}}{{clock .}}{{else}}not known{{end}} | {{with .B.OurS}}{{clock .}}{{else}}not known{{end}} |
| Software's estimate a plate, claimed | {{with .A.SoftwareS}}{{clock .}}{{else}}not known{{end}} | {{with .B.SoftwareS}}{{clock .}}{{else}}not known{{end}} |
| Failures, all | {{.A.Outcomes.Failed}} of {{.A.Outcomes.Judged}}: {{rate .A.AllFailures.Rate .A.AllFailures.CI .A.AllFailures.UpperIfNone}} | {{.B.Outcomes.Failed}} of {{.B.Outcomes.Judged}}: {{rate .B.AllFailures.Rate .B.AllFailures.CI .B.AllFailures.UpperIfNone}} |
| Failures attributed to the machine | {{.A.Outcomes.ByMachine}} of {{.A.Outcomes.Judged}}: {{rate .A.ByMachine.Rate .A.ByMachine.CI .A.ByMachine.UpperIfNone}} | {{.B.Outcomes.ByMachine}} of {{.B.Outcomes.Judged}}: {{rate .B.ByMachine.Rate .B.ByMachine.CI .B.ByMachine.UpperIfNone}} |
| Marked in printing, usable | {{.A.Outcomes.MicroPrinted}} of {{.A.Outcomes.Judged}}: {{rate .A.MicroDefect.Rate .A.MicroDefect.CI .A.MicroDefect.UpperIfNone}} | {{.B.Outcomes.MicroPrinted}} of {{.B.Outcomes.Judged}}: {{rate .B.MicroDefect.Rate .B.MicroDefect.CI .B.MicroDefect.UpperIfNone}} |
| Accidents after printing | {{.A.Outcomes.Accidents}} | {{.B.Outcomes.Accidents}} |
| Cost of a good piece | {{with .A.Cost}}{{money $currency .PerGoodPiece}}{{with .PerGoodCI}} ({{printf "%.2f to %.2f" (index . 0) (index . 1)}}){{end}}{{else}}{{.A.CostReason}}{{end}} | {{with .B.Cost}}{{money $currency .PerGoodPiece}}{{with .PerGoodCI}} ({{printf "%.2f to %.2f" (index . 0) (index . 1)}}){{end}}{{else}}{{.B.CostReason}}{{end}} |
{{range $i, $side := sides .}}{{range .Ladders}}| {{.Name}}, {{letter $i}} | {{if eq $i 0}}smallest whole {{size .Result.SmallestIntactMM}} (n = {{.Specimens}}) | {{else}} | smallest whole {{size .Result.SmallestIntactMM}} (n = {{.Specimens}}) {{end}}|
{{end}}{{end}}
{{range .Verdicts}}{{.}} {{end}}
{{range $i, $side := sides .}}{{with .Dimensions}}
Sizes of {{letter $i}}, measured (error ± expanded uncertainty, k = 2):

| Feature | Nominal | n | Error | % |
|---|---|---|---|---|
{{range .Features}}| {{.Feature}} | {{printf "%.2f" .NominalMM}} mm | {{.N}} | {{micrometres .ErrorMM}} ± {{plain .ExpandedMM}} | {{printf "%+.2f" .ErrorPct}} |
{{end}}{{end}}{{end}}{{end}}{{end}}
## Verdict

{{or .Review.Verdict "Not written yet."}}

## What was not tested

{{or .Review.NotTested "Not stated yet."}}

Intervals are at 95 %. Failures count specimens lost in printing, as printed or not known; accidents in washing, handling or taking supports off count against nobody. A lost specimen is set aside from detail and sizes. Where a plate held several pieces, time, resin and cost of one are its share by volume. This tool does not judge food, skin-contact or medical use.
`)))
