package api

import (
	"bytes"
	"crypto/rand"
	"encoding/json"
	"fmt"
	"image"
	"image/jpeg"
	"io"
	mathrand "math/rand/v2"
	"net/http"
	"net/http/httptest"
	"os"
	"slices"
	"strings"
	"testing"
	"testing/fstest"
	"time"

	"ojime/internal/bench"
	"ojime/internal/demo"
	"ojime/internal/store"
	"ojime/internal/work"
	"ojime/internal/work/photographs"
)

// BenchmarkPages times the calls behind each page on a record of 5,000 runs,
// 100,000 specimens and 1,000,000 readings. OJIME_LARGE names its folder, which is
// filled when it is empty; make bench-large sets it. The slowest first call after a
// change is told apart, since some answers are kept while the record stands still.
func BenchmarkPages(b *testing.B) {
	s := openLarge(b)
	if _, err := demo.FillLarge(b.Context(), s, time.Now(), demo.Large, func(int) {}); err != nil {
		b.Fatal(err)
	}
	w := work.New(s, time.Now, rand.Reader)
	server := httptest.NewServer(New(b.Context(), w, fstest.MapFS{}, Place{}))
	defer server.Close()
	for name, path := range pages(b, server.URL) {
		b.Run(name, func(b *testing.B) {
			var took []time.Duration
			call := func() time.Duration {
				begun := time.Now()
				fetch(b, server.URL+path)
				return time.Since(begun)
			}
			call() // the pages of the file come into memory
			first := time.Duration(0)
			for range 5 {
				if _, err := w.Upkeep.AddWaste(b.Context(), bench.Waste{Kind: "scrap", Amount: 1}); err != nil {
					b.Fatal(err)
				}
				first = max(first, call())
			}
			for b.Loop() {
				took = append(took, call())
			}
			slices.Sort(took)
			b.ReportMetric(float64(took[len(took)*95/100].Microseconds())/1000, "p95-ms")
			b.ReportMetric(float64(first.Microseconds())/1000, "first-ms")
		})
	}
}

// BenchmarkPictured measures the page of a review of the large record with twelve sides and forty photographs, as one HTML
// file, the first time after a change of the record.
func BenchmarkPictured(b *testing.B) {
	s := openLarge(b)
	w := work.New(s, time.Now, rand.Reader)
	review := pictured(b, w)
	for name, write := range map[string]func() (int, error){
		"the page": func() (int, error) {
			page, err := w.Publish.Page(b.Context(), review)
			return bytes.Count(page, []byte("<img ")), err
		},
		"its text": func() (int, error) {
			text, err := w.Publish.WriteUp(b.Context(), review)
			return bytes.Count(text, []byte("![")), err
		},
	} {
		b.Run(name, func(b *testing.B) {
			for b.Loop() {
				b.StopTimer()
				if _, err := w.Upkeep.AddWaste(b.Context(), bench.Waste{Kind: "scrap", Amount: 1}); err != nil {
					b.Fatal(err)
				}
				b.StartTimer()
				if pictures, err := write(); err != nil || pictures < 40 {
					b.Fatalf("%v, %d pictures", err, pictures)
				}
			}
		})
	}
}

// BenchmarkWrittenAnew measures the text of the write-up of the large record's review, the first time after a change: of a
// reading on one of its prints, and of something beside it.
func BenchmarkWrittenAnew(b *testing.B) {
	s := openLarge(b)
	w := work.New(s, time.Now, rand.Reader)
	known, err := w.Reviews.Reviews(b.Context())
	if err != nil {
		b.Fatal(err)
	}
	setups, err := w.Reviews.SetUps(b.Context(), known[0].ID)
	if err != nil {
		b.Fatal(err)
	}
	prints := 0
	for _, of := range setups {
		prints += len(of.RunIDs)
	}
	b.Logf("%d set-ups, %d prints", len(setups), prints)
	sheet, err := w.Printing.RunSheet(b.Context(), setups[0].RunIDs[0])
	if err != nil {
		b.Fatal(err)
	}
	var tools []bench.Instrument
	if err := s.Read(b.Context(), func(t *store.Tx) (err error) {
		tools, err = t.Instruments()
		return err
	}); err != nil || len(tools) == 0 {
		b.Fatal(len(tools), err)
	}
	for name, change := range map[string]func() error{
		"a reading": func() error {
			size := sheet.Features[slices.IndexFunc(sheet.Features, func(f bench.Feature) bool { return f.Kind == "dimension" })]
			_, err := w.Inspect.RecordReadings(b.Context(), sheet.Run.ID, []bench.Reading{{SpecimenID: sheet.Specimens[0].ID, FeatureID: size.ID, InstrumentID: &tools[0].ID, ValueMM: size.NominalMM}}, true)
			return err
		},
		"waste": func() error {
			_, err := w.Upkeep.AddWaste(b.Context(), bench.Waste{Kind: "scrap", Amount: 1})
			return err
		},
	} {
		b.Run(name, func(b *testing.B) {
			for b.Loop() {
				b.StopTimer()
				if err := change(); err != nil {
					b.Fatal(err)
				}
				b.StartTimer()
				if text, err := w.Publish.WriteUp(b.Context(), known[0].ID); err != nil || len(text) < 10_000 {
					b.Fatalf("%v, %d bytes", err, len(text))
				}
			}
		})
	}
}

// openLarge opens the large record that OJIME_LARGE names, until the benchmark ends.
func openLarge(b *testing.B) *store.Store {
	b.Helper()
	dir := os.Getenv("OJIME_LARGE")
	if dir == "" {
		b.Skip("set OJIME_LARGE to the folder of a large record; make bench-large does")
	}
	s, err := store.Open(b.Context(), dir)
	if err != nil {
		b.Fatal(err)
	}
	b.Cleanup(func() { _ = s.Close() })
	return s
}

// pictured is a review of one piece over so many machines and resins that it has twelve sides, its write-up with forty photographs between; made once.
func pictured(b *testing.B, w *work.Work) string {
	b.Helper()
	const question = "Twelve sides, one piece and forty pictures?"
	known, err := w.Reviews.Reviews(b.Context())
	if err != nil {
		b.Fatal(err)
	}
	for _, r := range known {
		if r.Question == question {
			return r.ID
		}
	}
	r := known[0]
	r.ID, r.Code, r.Version, r.Question = "", "", 0, question
	machines, err := w.Kit.Machines(b.Context())
	if err != nil {
		b.Fatal(err)
	}
	resins, err := w.Kit.Resins(b.Context())
	if err != nil {
		b.Fatal(err)
	}
	r.MachineIDs, r.ResinIDs, r.PieceIDs = nil, nil, r.PieceIDs[:1]
	for _, x := range resins {
		r.ResinIDs = append(r.ResinIDs, x.Resin.ID)
	}
	for _, m := range machines[:(12+len(resins)-1)/len(resins)] { // one set-up of each pair
		r.MachineIDs = append(r.MachineIDs, m.Machine.ID)
	}
	if r, err = w.Reviews.SaveReview(b.Context(), r); err != nil {
		b.Fatal(err)
	}
	setups, err := w.Reviews.SetUps(b.Context(), r.ID)
	if err != nil {
		b.Fatal(err)
	}
	prints := 0
	for _, s := range setups {
		prints += len(s.RunIDs)
	}
	b.Logf("%d set-ups, %d prints", len(setups), prints)
	own := bench.Block{Key: "own-1"}
	for i := range 40 {
		sheet, err := w.Printing.RunSheet(b.Context(), setups[i%len(setups)].RunIDs[i/len(setups)])
		if err != nil {
			b.Fatal(err)
		}
		data := speckled(b, int64(i))
		p, err := w.Photographs.Keep(b.Context(), photographs.Taken{OfID: sheet.Run.ID, SpecimenID: sheet.Specimens[0].ID, Station: "in_hand", Stage: "raw", Light: "a lamp", FileName: "p.jpg", FileBytes: int64(len(data)), Read: func() ([]byte, error) { return data, nil }}, nil)
		if err != nil {
			b.Fatal(err)
		}
		own.Pictures = append(own.Pictures, bench.BlockPicture{PhotographID: p.ID, Caption: "A picture"})
	}
	if _, err := w.Reviews.WriteUpAs(b.Context(), r.ID, r.Version, bench.Blocks{own}); err != nil {
		b.Fatal(err)
	}
	return r.ID
}

// speckled is a photograph of 1,600 × 1,200 px whose file is as large as a real one.
func speckled(b *testing.B, seed int64) []byte {
	b.Helper()
	random := mathrand.New(mathrand.NewPCG(uint64(seed), 1))
	img := image.NewGray(image.Rect(0, 0, 1600, 1200))
	for i := range img.Pix {
		img.Pix[i] = uint8(100 + random.IntN(40))
	}
	var out bytes.Buffer
	if err := jpeg.Encode(&out, img, &jpeg.Options{Quality: 80}); err != nil {
		b.Fatal(err)
	}
	return out.Bytes()
}

func fetch(b *testing.B, url string) []byte {
	b.Helper()
	res, err := http.Get(url)
	if err != nil {
		b.Fatal(err)
	}
	defer func() { _ = res.Body.Close() }()
	body, err := io.ReadAll(res.Body)
	if err != nil || res.StatusCode != http.StatusOK {
		b.Fatalf("%s: %d %v", url, res.StatusCode, err)
	}
	return body
}

// pages are the calls behind each page, with ids from the middle of the record.
func pages(b *testing.B, url string) map[string]string {
	b.Helper()
	into := func(path string, out any) {
		if err := json.Unmarshal(fetch(b, url+"/api/v1/"+path), out); err != nil {
			b.Fatal(err)
		}
	}
	var runs struct{ Lines []struct{ ID string } }
	into("runs?skip=2500&most=1", &runs)
	var machines []struct{ Machine struct{ ID string } }
	into("machines", &machines)
	var pieces []struct{ Piece struct{ ID string } }
	into("pieces", &pieces)
	var profiles []struct{ Profile struct{ ID string } }
	var reviews []struct{ ID string }
	into("profiles", &profiles)
	into("reviews", &reviews)
	var setUps []struct {
		RunIDs []string `json:"run_ids"`
	}
	into("reviews/"+reviews[0].ID+"/set-ups", &setUps)
	fifty := func(ids []string) string { return strings.Join(ids[:min(50, len(ids))], ",") }
	// Twelve sides of the prints of two set-ups, some 200 of them.
	twelve := "comparison?question=failure"
	for i := range 12 {
		ids := setUps[i%2].RunIDs
		from := i / 2 * 17 % max(1, len(ids)-17)
		twelve += "&side=" + strings.Join(ids[from:min(from+17, len(ids))], ",")
	}
	now := time.Now().UnixMilli()
	const month = 32 * 24 * 60 * 60 * 1000
	run, machine, piece := runs.Lines[0].ID, machines[1].Machine.ID, pieces[0].Piece.ID
	out := map[string]string{
		"beads of a month": fmt.Sprintf("beads?from_ms=%d&to_ms=%d", now-month, now), "runs, first page": "runs?most=100", "runs, last page": "runs?most=100&skip=4900",
		"runs with nothing usable": "runs?most=100&shape=ring", "runs by code": "runs?code=123&most=20", "a run": "runs/" + run, "its print": "runs/" + run + "/live",
		"after it": "runs/" + run + "/after", "its diagnosis": "runs/" + run + "/diagnosis?symptom=void", "a next run": "run-draft?machine_id=" + machine,
		"an estimate": "run-estimate?profile_id=" + profiles[0].Profile.ID + "&piece_id=" + piece + "&copies=20", "set-ups of a review": "reviews/" + reviews[0].ID + "/set-ups",
		"a comparison of runs":       "comparison?question=detail&side=" + setUps[0].RunIDs[0] + "&side=" + setUps[1].RunIDs[0],
		"a comparison of 100 prints": "comparison?question=detail&side=" + fifty(setUps[0].RunIDs) + "&side=" + fifty(setUps[1].RunIDs),
		"a comparison of 12 sides":   twelve,
		"a write-up":                 "reviews/" + reviews[0].ID + "/write-up.md",
		"failures of a machine":      "machines/" + machine + "/failures",
	}
	for _, plain := range []string{"bench", "upkeep", "waste", "baths", "bottle-cards", "bottles", "machines", "resins", "pieces", "profiles", "instruments", "series", "plates", "reviews", "failures", "devices"} {
		out[plain] = plain
	}
	for name := range out {
		out[name] = "/api/v1/" + out[name]
	}
	return out
}
