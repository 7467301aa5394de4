package device

import (
	"reflect"
	"strings"
	"testing"

	"ojime/internal/bench"
	"ojime/internal/core/quantity"
)

func TestLinesAndJSONSayTheSame(t *testing.T) {
	lines, err := ReadLines([]byte("# from the bench\nb1 1 1000 printing 12 800\n\nb1 2 1500 reading 12,03 mm # by hand\r\nb1 3 2000 idle\n"))
	if err != nil {
		t.Fatal(err)
	}
	want := []bench.DeviceMessage{
		{Session: "b1", Seq: 1, AtMS: 1000, Kind: "state", State: "printing", Layer: quantity.Ptr[int64](12), Value: quantity.Ptr(800.0), Unit: "layers"},
		{Session: "b1", Seq: 2, AtMS: 1500, Kind: "reading", Value: quantity.Ptr(12.03), Unit: "mm"},
		{Session: "b1", Seq: 3, AtMS: 2000, Kind: "state", State: "idle"},
	}
	if !reflect.DeepEqual(lines, want) {
		t.Errorf("lines gave %+v", lines)
	}
	text, err := WriteJSON(want)
	if err != nil {
		t.Fatal(err)
	}
	if back, err := ReadJSON(text); err != nil || !reflect.DeepEqual(back, want) {
		t.Errorf("JSON gave %+v (%v)", back, err)
	}
}

func TestBadMessagesAreNamed(t *testing.T) {
	for _, c := range []struct {
		read func([]byte) ([]bench.DeviceMessage, error)
		text string
		want string
	}{
		{ReadLines, "", "at least one"}, {ReadLines, "\nb 1", "line 2"}, {ReadLines, "b x 1 idle", `"x"`}, {ReadLines, "b 1 y idle", `"y"`},
		{ReadLines, "b 1 2 reading 3", "unit"}, {ReadLines, "b 1 2 reading much mm", `"much"`}, {ReadLines, "b 1 2 printing z", `"z"`},
		{ReadLines, "b 1 2 printing 1 2 3", "3 words"}, {ReadLines, strings.Repeat("b 1 2 idle\n", MostMessages+1), "more than"},
		{ReadJSON, "", "at least one"}, {ReadJSON, `{"seq":1}{`, "messages[1]"}, {ReadJSON, `{"seq":"one"}`, "messages[0]"},
		{ReadJSON, strings.Repeat(`{"seq":1}`, MostMessages+1), "more than"},
	} {
		if got, err := c.read([]byte(c.text)); err == nil || !strings.Contains(err.Error(), c.want) {
			t.Errorf("%.40q gave %v, error %v; want one with %q", c.text, got, err, c.want)
		}
	}
}

// What can be read at all is written and read back the same.
func FuzzRead(f *testing.F) {
	f.Add([]byte("b1 1 1000 printing 12 800"))
	f.Add([]byte("b1 2 1500 reading 12,03 mm"))
	f.Add([]byte(`{"session":"a","seq":1,"at_ms":5,"kind":"reading","value":1.5,"unit":"g"}`))
	f.Fuzz(func(t *testing.T, data []byte) {
		for _, read := range []func([]byte) ([]bench.DeviceMessage, error){ReadLines, ReadJSON} {
			got, err := read(data)
			if err != nil {
				continue
			}
			text, err := WriteJSON(got)
			if err != nil {
				continue // no number that JSON knows, such as NaN from a line
			}
			back, err := ReadJSON(text)
			if err != nil || len(back) != len(got) {
				t.Fatalf("%q was read and cannot be read back: %v", data, err)
			}
		}
	})
}
