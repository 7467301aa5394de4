package publish

import (
	"fmt"
	"strings"
	"text/template"

	"ojime/internal/say"
	"ojime/internal/work/compare"
)

// markdown is the write-up. Each figure stands with its unit, n and interval.
var markdown = escaping(template.Must(template.New("write-up").Funcs(template.FuncMap{
	"policy":      func(p string) string { return strings.ReplaceAll(p, "_", " ") },
	"inline":      inline,
	"figure":      say.Figure,
	"counted":     func(n int64, one string) string { return say.Counted(n, one) },
	"or":          written,
	"cell":        cell,
	"clock":       clock,
	"lasts":       say.Duration,
	"unknowns":    unknowns,
	"letter":      func(i int) string { return string(rune('A' + i)) },
	"micrometres": say.Micrometres,
	"day":         say.Day,
	"plain":       func(mm float64) string { return fmt.Sprintf("%.0f µm", 1000*mm) },
	"grade":       say.Words,
	"factors":     factorNames,
	"settings":    settingsLines,
	"conditions":  conditionLines,
	"first":       func(list []compare.Comparison) compare.Comparison { return list[0] },
	"join":        strings.Join,
	"pictures":    pictureLine,
	"held":        heldLine,
	"figures":     say.Figures,
	"percent":     say.Percent,
	"inunit":      func(v float64, unit string) string { return say.InUnit(say.Figure(v), unit) },
	"score":       scoreWords,
	"interest":    func(i string) string { return interests[i] },
}).Parse(`# {{.Review.Question}}

Readers: {{or .Review.Readers "not stated"}}. Settings: {{policy .Review.Policy}}. Under test: {{or (join (factors .Review.UnderTest) ", ") "not stated"}}.

## The answer

{{or .Review.Verdict "Not written yet."}}

{{with .Readers}}## For whom
{{range .}}
### {{.Reader.Name}}
{{with .Reader.About}}
{{.}}
{{end}}
{{range .Says}}- {{.}}
{{end}}
| Criterion | Weight | Worst to best |{{range .Options}} {{.Name}} |{{end}}
|---|---|---|{{range .Options}}---|{{end}}
{{range .Rows}}| {{.Name}} | {{if .LeftOut}}left out: {{.LeftOut}}{{else}}{{percent .Share}}{{end}} | {{inunit .Worst .Unit}} to {{inunit .Best .Unit}} |{{range .Values}} {{.}} |{{end}}
{{end}}{{with .Whole}}| **Score, 0 to 1** | | |{{range .Scores}} {{score .}} |{{end}}
{{end}}{{with .Quality}}| Money apart | | |{{range .Scores}} {{score .}} |{{end}}
{{end}}
{{range .Turns}}- {{.}}
{{end}}{{end}}
Each value is put on a line from the worst to the best, and the lines are added up by their weights; the odds of being the best are of these prints, not of other machines of the kind.

{{end}}{{with .Findings}}## What was found
{{range .}}
- {{.Says}}
{{if and .Now .Finding.Words}}  - As the record has it: {{.Now.Sentence}}
{{end}}  - Grade: {{grade .Grade}}{{with .Now}}{{with .Because}}: {{join . "; "}}{{end}}.
{{with .Scope}}  - Found on: {{.}}.
{{end}}{{with .Disclosure}}  - The machines: {{join . "; "}}.
{{end}}{{with .Rests}}  - Rests on: {{range $i, $r := .}}{{if $i}}; {{end}}{{.Name}}{{with .Figure}}, {{.}}{{end}}{{with .Runs}} ({{join . ", "}}){{end}}{{end}}.
{{end}}{{else}}.
{{end}}{{with .Changed}}  - {{.}}
{{end}}{{end}}
A finding is graded by what it rests on, the strongest first: showed, suggests, looked, cannot tell, not tested.

{{end}}## What was printed

| Set-up | Piece | Runs | Specimens |
|---|---|---|---|
{{range .SetUps}}| {{.Label}} | {{.Piece}}{{with .PieceKind}}, {{.}}{{end}} | {{join .Runs ", "}} | {{.Specimens}} |
{{else}}| nothing yet | | | |
{{end}}{{with .Matrix}}{{range .Tells}}
{{.}}
{{end}}{{range .WithPlan}}
Once what is planned is printed: {{.}}
{{end}}{{range .Missing}}
Not printed, and with it all of the above could be told: {{join . "; "}}.
{{end}}{{end}}{{if .Declared}}
### What decides

{{range .Declared}}- {{.}}
{{end}}{{end}}{{if .Planned}}
### How the prints were planned

{{range .Planned}}- {{.}}
{{end}}{{end}}
### Settings

{{range settings .Sheets}}- {{.}}
{{else}}Nothing was printed yet.
{{end}}{{if .Sliced}}
### Sliced files

{{range .Sliced}}- {{.Line}}
{{end}}{{end}}
### Each print and its conditions

{{range conditions .Review.LeftOut .Sheets}}- {{.}}
{{else}}Nothing was printed yet.
{{end}}{{if .References}}
### References

{{range .References}}- {{.Name}} ({{grade .MadeBy}}, {{.Copies}}): {{.Provenance}}{{with .Note}} {{.}}{{end}}
{{end}}
A reference has readings, and no time, failures or cost: no print on record made it.
{{end}}{{if .LeftOut}}
### Prints left out

{{range .LeftOut}}- {{.Run}} of {{.SetUp}}: {{.Reason}}
{{range .Effects}}  - {{.}}
{{else}}  - It changes no figure.
{{end}}{{end}}{{end}}{{$currency := .Currency}}{{range .Contests}}
## {{.Piece}}: its set-ups against each other
{{with first .Results}}{{$base := .Baseline}}
{{range $i, $side := .Sides}}- **{{.Letter}}**: {{.Label}} ({{join .Runs ", "}}){{with .Unit}}; {{.}}{{end}}{{if eq $i $base}}, against which the others are set{{end}}
{{end}}
What it put to the test: {{(index .Sides 0).Difficulty}}
{{end}}
### How fair each comparison is

{{range .Results}}{{$question := .Question}}{{$base := letter .Baseline}}{{range .Audits}}{{if .Reference}}- **{{$question}}, {{letter .A}} against {{$base}}**: a reference stands beside the prints; how it was made is not weighed.
{{else}}- **{{$question}}, {{letter .A}} against {{$base}}**: {{grade .Result.Grade}}.{{range .Result.Rows}}{{if and (ne .Weight "none") (ne .State "unknown")}}
  - {{.Sentence}}{{end}}{{end}}{{with unknowns .Result}}
  - Not known: {{.}}.{{end}}
{{end}}{{end}}{{end}}{{with first .Results}}{{range .Audits}}{{$pair := letter .A}}{{with .Tells}}- {{.}}
{{end}}{{range .Knots}}- Changed between the prints of {{$pair}} and the baseline: {{.}}.
{{end}}{{range .Threads}}- {{.}}.
{{end}}{{end}}
### Figures
{{range .Pairs}}
{{.}}
{{end}}
| |{{range .Sides}} {{.Letter}} |{{end}}
|---|{{range .Sides}}---|{{end}}
{{range .Measures}}{{$m := .}}| {{.Label}} |{{range .Sides}} {{cell $m . $currency}} |{{end}}
{{end}}| Our estimate a plate, computed |{{range .Sides}} {{clock .OurS}} |{{end}}
| Software's estimate a plate, claimed |{{range .Sides}} {{clock .SoftwareS}} |{{end}}
| Time a piece, at the fills printed |{{range .Sides}} {{clock .PerPieceS}} |{{end}}
| How fast it rose, its first layers included |{{range .Sides}} {{with .Rose}}{{.Says}}{{else}}not known{{end}} |{{end}}
| Washed |{{range .Sides}} {{.Washed}} |{{end}}
| Cured |{{range .Sides}} {{.Cured}} |{{end}}
| Accidents after printing |{{range .Sides}} {{.Outcomes.Accidents}} |{{end}}
{{end}}
### What they show

{{with first .Results}}{{range .Sides}}{{$letter := .Letter}}{{range .Warmth}}- Temperature of {{$letter}}: {{.Says}}
{{end}}{{with .OddsPerDegree}}- Temperature of {{$letter}}: {{.Says}}
{{end}}{{with .PerDegree}}- Temperature of {{$letter}}: {{.Says}}
{{end}}{{end}}{{end}}{{range .Results}}{{range .Answers}}- {{.}}
{{end}}{{end}}{{with first .Results}}{{range .Stages}}- {{.}}
{{end}}{{range .Expected}}- {{.}}
{{end}}{{range .Agreement}}- {{.}}
{{end}}{{range .Measuring}}- {{.}}
{{end}}{{if .Faults}}
### Faults, by symptom

| Symptom |{{range .Sides}} {{.Letter}} |{{end}} What that says |
|---|{{range .Sides}}---|{{end}}---|
{{range .Faults}}| {{.Symptom}} |{{range .Sides}} {{.Specimens}} on {{.Prints}} of {{.Of}} prints |{{end}} {{.Says}} |
{{end}}
In the order of time:

{{range .InTime}}{{if .Symptoms}}- {{day .AtMS}}, {{.Run}} ({{letter .Side}}): {{.Symptoms}} of {{.Of}}
{{end}}{{end}}{{range .FaultsBy}}
Counted by {{.By}}:

| Symptom |{{range .Names}} {{.}} |{{end}} What that says |
|---|{{range .Names}}---|{{end}}---|
{{range .Faults}}| {{.Symptom}} |{{range .Sides}} {{.Specimens}} on {{.Prints}} of {{.Of}} prints |{{end}} {{.Says}} |
{{end}}{{end}}{{if .Remedies}}
What was tried against them:

{{range .Remedies}}- {{.Symptom}}: {{.Fared.Says}}
{{range .Tried}}  - {{day .AtMS}}, {{.Run}}, {{.Title}}: “{{.Note}}” It {{.Says}}.
{{end}}{{end}}{{end}}{{end}}{{if .Eyes}}
### What eyes can tell between them

{{range .Eyes}}- {{.What}}: {{.Says}}
{{end}}
Computed for raw surfaces and good sight; after primer or paint that is unproven, and no judge has seen it.
{{end}}{{if .Pictures}}
### Photographs

{{range .Pictures}}- {{pictures .}}
{{end}}{{end}}{{if .Ordeals}}
### What specimens bore
{{range $o := .Ordeals}}
{{.Label}} (series {{join .Series ", "}}):

{{range $i, $side := .Sides}}- {{letter $i}}: {{held $o $i}}
{{end}}{{range .Says}}- {{.}}
{{end}}{{end}}
What broke here is no failure of a print.
{{end}}{{if .Whys}}
### Why their times differ
{{range .Whys}}
{{range .Sentences}}- {{.}}
{{end}}{{end}}{{end}}{{end}}{{with .Filled}}{{if .Equal}}{{$letters := .Letters}}
### Time of a piece at equal fill

Computed by the timing models, put right by what prints took.

| Side | One piece on a plate | {{.Equal}} a plate, each | A full plate | each |
|---|---|---|---|---|
{{range $i, $s := .Sides}}| {{index $letters $i}} | {{if .Reason}}{{.Reason}} | | | |{{else}}{{lasts .OneS}} | {{lasts .EqualS}} | {{.Load.Capacity}} | {{lasts .FullS}} |{{end}}
{{end}}{{range .Pairs}}- {{.Words}}
{{end}}{{range $i, $s := .Sides}}{{with .Week}}- {{index $letters $i}} makes {{.Says}} By the reviewer's hours: {{figure .RunH}} h printing, {{figure .AttendedH}} h with somebody at it, {{counted .Overnight "plate"}} ending while nobody is there.
{{end}}{{end}}{{end}}{{end}}{{with first .Results}}
{{if .Counted.Table}}Every p is adjusted by Holm's method among the {{.Counted.Table}} of this table{{else}}So few prints give no p{{end}}{{if .Counted.Declared}}, but the {{.Counted.Declared}} declared to decide among themselves{{end}}.
{{range .Sides}}{{$letter := .Letter}}{{with .Dimensions}}
Sizes of {{$letter}}, measured (error ± expanded uncertainty, k = 2, of these specimens):

| Feature | Nominal | n | Error | % |
|---|---|---|---|---|
{{range .Features}}| {{.Feature}} | {{printf "%.2f" .NominalMM}} mm | {{.N}} | {{micrometres .ErrorMM}} ± {{plain .ExpandedMM}} | {{printf "%+.2f" .ErrorPct}} |
{{end}}{{end}}{{range .Corrections}}
{{$letter}}: {{.}}
{{end}}{{end}}{{end}}{{end}}{{with .Matched}}
## All pieces together

{{range .Sides}}- **{{.Letter}}**: {{.Label}} ({{join .Runs ", "}})
{{end}}
{{range .Sentences}}- {{.}}
{{end}}
Set-ups are set against each other piece by piece and plate by plate, over what both printed, each kind counting alike; every p is adjusted among the {{.Counted}} of that table.
{{end}}
{{with .Panels}}
## What blind judges said
{{range .}}
**{{.Panel.Code}}: {{.Panel.Question}}**{{with .Panel.LooksAt}} Looked at: {{.}}.{{end}} {{.How}}
{{if .Open}}
{{.Open}}
{{else}}
{{range .Says}}- {{.}}
{{end}}- How blind: {{.Grade}}. Hash of the key, told before anybody voted: {{.Panel.KeySHA256}}.
{{with .Panel.Tells}}- What may have told them apart, listed before it opened:{{range .}}
  - {{.}}{{end}}
{{end}}{{end}}{{end}}
The judge is the unit: however much one looks at, it is one judge. Each p stands by itself.
{{end}}{{if .OnComputer}}
## On the computer

{{range .Programs}}- Prepared with **{{.Software}}**: {{.Says}}.
{{end}}{{range .Software.Programs}}- **{{.Program.Program}}{{with .Version}} {{.}}{{end}}**: {{.Says}}
{{end}}{{range $.Software.Steps}}{{if and .Again (not .TakenBackMS)}}  - {{.Piece}}, {{.Stage}}, {{.Ended}} with {{.Software}}{{with .SoftwareVersion}} {{.}}{{end}}: {{.Note}} {{.Again}}
{{end}}{{end}}{{end}}{{with .Units}}
## The very machines

{{range .}}- **{{.Machine}}**: {{or .Provenance "how it came is not on record"}}.
{{range .Lines}}  - {{.}}
{{end}}{{end}}{{end}}{{with .Plates}}
## Plates and light

{{range .}}- **{{.Machine.Name}}**: {{.Usable.Says}} Claimed: {{figures .Machine.WidthMM 5}} × {{figures .Machine.DepthMM 5}} × {{figures .Machine.HeightMM 5}} mm.{{with .Usable.Verified}}{{with .Note}} How it was found: {{.}}.{{end}}{{end}}{{with .Light}} Light: {{.}}{{end}}
{{end}}{{end}}{{with .Living}}
## Living with the machines

| |{{range .Machines}} {{.}} |{{end}}
|---|{{range .Machines}}---|{{end}}
{{range .Rows}}| {{.Scale}} |{{range .Says}} {{.}} |{{end}}
{{end}}
What people say of one machine each: a score of 0 to 4 with its anchor, and no interval.
{{end}}{{with .Remarks}}
## What annoys and what pleases

{{range .}}- **{{.Machine}}**
{{range .Remarks.Says}}  - {{.}}.
{{end}}{{end}}
Said apart from how things print: how often, how much it weighs (1 hardly, 5 decides), for whom and by whom.
{{end}}{{with .Money}}{{$table := .Prices}}
## Money

Prices on {{$table.Day}}; what is not known is not counted as nothing.

| |{{range $table.Machines}} {{.Name}} |{{end}}
|---|{{range $table.Machines}}---|{{end}}
| Price |{{range $table.Machines}} {{range .Prices}}{{if .Stands}}{{.Says}}{{end}}{{end}}{{if .FromKit}}as on its page{{end}} |{{end}}
{{range $table.Items}}| {{.Item}} |{{range .Cells}} {{.Says}} |{{end}}
{{end}}| **Equipped alike** |{{range $table.Machines}} {{.Says}} |{{end}}
{{with .Ownership}}| Owned for {{figure $.Money.Budget.Years}} years, {{figure $.Money.Budget.PiecesPerYear}} good pieces a year, {{figure $.Money.Budget.ResalePct}} % back at the end |{{range $m := $table.Machines}}{{range $.Money.Ownership.Options}}{{if eq .Name $m.Name}} {{inunit .Total $table.Currency}}, {{inunit .PerPiece $table.Currency}} a piece {{end}}{{end}} |{{end}}
{{end}}{{with .Budget.Upkeep}}
Upkeep beside resin, film and light: {{range $i, $k := .}}{{if $i}}; {{end}}{{.Name}}, {{inunit .Price $table.Currency}} every {{figure .EveryPieces}} pieces{{end}}.
{{end}}
{{range .Says}}- {{.}}
{{end}}{{range .Missing}}- Not worked out for {{.}}.
{{end}}{{range .Recovered}}- {{.Says}}
{{end}}{{end}}{{with .Claims.Rows}}
## What is claimed

| Of | Claimed | By whom | State | What was measured, and why |
|---|---|---|---|---|
{{range .}}| {{.Subject}} | {{.Words}}{{with .Number}} [{{.}}]{{end}}{{with .Base}}; against {{.}}{{end}} | {{.Source}} ({{interest .Interest}}) | {{grade .State}}{{if .Judged}}, as judged{{end}} | {{.Says}} |
{{end}}
A claim that nobody tested stays in this table.
{{end}}## What was not tested

{{or .Review.NotTested "Not stated yet."}}

## Disclosure

{{or .Review.Disclosure "Not stated in the reviewer's own words."}}
{{range .Disclosed}}
- {{.Name}}{{if ne .Kind "review"}} ({{.Kind}}){{end}}: {{or (join .Says "; ") "how it came is not on record"}}.{{end}}

Intervals are at 95 %, over prints: copies of one print share its fate. Failures count specimens lost in printing, as printed or not known; accidents in washing, handling or taking supports off count against nobody. A lost specimen is set aside from detail and sizes. Where a plate held several pieces, time, resin and cost of one are its share by volume. This tool does not judge food, skin-contact or medical use.
`)))
