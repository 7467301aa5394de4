package work_test

import (
	"archive/zip"
	"bytes"
	"io"
	"slices"
	"strings"
	"testing"
	"time"

	"ojime/internal/bench"
	"ojime/internal/store"
)

// namesIn are the files of a zip.
func namesIn(t *testing.T, data []byte) (out []string) {
	t.Helper()
	z := must(zip.NewReader(bytes.NewReader(data), int64(len(data))))(t)
	for _, f := range z.File {
		out = append(out, f.Name)
	}
	return out
}

// spoilt is a bundle with one of its files changed by a rule; nil takes it out.
func spoilt(t *testing.T, data []byte, name string, rule func([]byte) []byte) []byte {
	t.Helper()
	z := must(zip.NewReader(bytes.NewReader(data), int64(len(data))))(t)
	var b bytes.Buffer
	to := zip.NewWriter(&b)
	for _, f := range z.File {
		text := must(io.ReadAll(must(f.Open())(t)))(t)
		if f.Name == name {
			if text = rule(text); text == nil {
				continue
			}
		}
		must(must(to.Create(f.Name))(t).Write(text))(t)
	}
	if err := to.Close(); err != nil {
		t.Fatal(err)
	}
	return b.Bytes()
}

// A bundle opens beside another record, and every figure and word of its review comes out as it was packed. Other reviews are not
// in it.
func TestABundleComesOutAlikeElsewhere(t *testing.T) {
	d, review := twoPriced(t)
	ctx := t.Context()
	d.polled(review)
	d.found(review)
	other := d.review(func(r *bench.Review) { r.Question = "Nobody else's business?" })
	must(d.w.Reviews.FollowUp(ctx, other.ID, bench.FollowUp{Question: "A secret?", DueDay: "2027-01-01"}))(t)
	data := must(d.w.Bundle.Make(ctx, review.ID))(t)
	for _, want := range []string{"review.html", "review.md", "settings.html", "script.md", "plots/1.svg", "tables/runs.csv", "record.json", "manifest.json", "READ-ME.txt"} {
		if !slices.Contains(namesIn(t, data), want) {
			t.Errorf("the bundle lacks %s", want)
		}
	}
	if !slices.ContainsFunc(namesIn(t, data), func(n string) bool { return strings.HasPrefix(n, "cards/") }) {
		t.Error("the bundle has no cards")
	}
	spoilt(t, data, "record.json", func(text []byte) []byte {
		for _, never := range []string{"Nobody else's business", "A secret?"} {
			if bytes.Contains(text, []byte(never)) {
				t.Errorf("the bundle tells %q", never)
			}
		}
		return text
	})

	reader := newDesk(t) // somebody else's record, which holds something already
	before := exported(t, reader.w)
	served := ""
	got := must(reader.w.Bundle.Open(ctx, data, func(s *store.Store, at time.Time) (string, func() error, error) {
		served = s.Dir()
		return "http://there", func() error { return nil }, nil
	}))(t)
	if len(got.Damaged) != 0 || len(got.Differ) != 0 || !got.SameText || got.Question != review.Question || got.Figures < 10 || got.Address != "http://there" || served == "" {
		t.Fatalf("%+v", got)
	}
	if !bytes.Equal(before, exported(t, reader.w)) {
		t.Error("opening a bundle changed the record")
	}
	if list := must(reader.w.Bundle.List(ctx))(t); len(list) != 1 || list[0].ID != got.ID {
		t.Errorf("%+v", list)
	}
	if err := reader.w.Bundle.Close(ctx, got.ID); err != nil {
		t.Error(err)
	}
	if list := must(reader.w.Bundle.List(ctx))(t); len(list) != 0 || reader.w.Bundle.Close(ctx, got.ID) == nil {
		t.Errorf("%+v", list)
	}
}

// What is not as it was packed is named, and what is no bundle is refused.
func TestABundleThatIsNotAsItWasPacked(t *testing.T) {
	d, review := twoPriced(t)
	ctx := t.Context()
	data := must(d.w.Bundle.Make(ctx, review.ID))(t)
	reader := newDesk(t)
	changed := spoilt(t, data, "review.md", func(text []byte) []byte { return append(text, " It never fails."...) })
	got := must(reader.w.Bundle.Open(ctx, changed, nil))(t)
	if !slices.Equal(got.Damaged, []string{"review.md"}) || got.SameText || len(got.Differ) != 0 {
		t.Errorf("%+v", got)
	}
	// A figure that was claimed otherwise than the record gives is named.
	told := spoilt(t, data, "manifest.json", func(text []byte) []byte {
		return bytes.Replace(text, []byte(`"says": "400 €"`), []byte(`"says": "1 €"`), 1)
	})
	if got = must(reader.w.Bundle.Open(ctx, told, nil))(t); len(got.Differ) != 1 || got.Differ[0].Was != "1 €" || got.Differ[0].Is != "400 €" {
		t.Errorf("%+v", got)
	}
	for what, broken := range map[string][]byte{
		"no zip":         []byte("PK no"),
		"no manifest":    spoilt(t, data, "manifest.json", func([]byte) []byte { return nil }),
		"another format": spoilt(t, data, "manifest.json", func([]byte) []byte { return []byte(`{"format":"x"}`) }),
		"no record":      spoilt(t, data, "record.json", func([]byte) []byte { return nil }),
	} {
		if _, err := reader.w.Bundle.Open(ctx, broken, nil); err == nil {
			t.Errorf("%s was opened", what)
		} else {
			wantField(t, err, "bundle")
		}
	}
	if _, err := reader.w.Bundle.Open(ctx, spoilt(t, data, "record.json", func([]byte) []byte { return []byte(`{"format":"ojime-record-2"`) }), nil); err == nil {
		t.Error("a record that is cut off was opened")
	}
}
