package main

import (
	"bytes"
	"encoding/json"
	"fmt"
	"math/rand/v2"
	"net/http"
	"os"
	"os/exec"
	"path/filepath"
	"strconv"
	"strings"
	"sync"
	"sync/atomic"
	"testing"
	"time"
)

// tally is what a trial comes to.
type tally struct {
	what                        string
	acknowledged, lost, doubled int
	corrupt                     bool
	notTried                    string
}

func (s tally) String() string {
	if s.notTried != "" {
		return fmt.Sprintf("%-44s not tried: %s", s.what, s.notTried)
	}
	return fmt.Sprintf("%-44s acknowledged %d, lost %d, doubled %d, corrupt %v", s.what, s.acknowledged, s.lost, s.doubled, s.corrupt)
}

// checked notes what the program's own check says of a record.
func (s *tally) checked(t *testing.T, data string) {
	t.Helper()
	var out bytes.Buffer
	if err := run(t.Context(), []string{"check", "--data", data}, &out); err != nil {
		s.corrupt = true
		t.Errorf("%s: %v\n%s", s.what, err, out.String())
	}
}

// The trial: faults of the program, the disk and the network, on this machine alone. It takes minutes, so that it runs
// when it is asked for (OJIME_TRIAL); OJIME_KILLS and OJIME_TRIAL_MINUTES say how much of it.
func TestTrial(t *testing.T) {
	if os.Getenv("OJIME_TRIAL") == "" {
		t.Skip("make trial runs it")
	}
	var all []tally
	for _, trial := range []func(*testing.T) tally{
		func(t *testing.T) tally { return killing(t, number(t, "OJIME_KILLS", 200)) }, fullDisk, readOnlyDisk,
		func(t *testing.T) tally { return devicesWithLosses(t, number(t, "OJIME_TRIAL_MINUTES", 5)) },
	} {
		all = append(all, trial(t))
	}
	fmt.Println()
	for _, one := range all {
		fmt.Println(one)
		if one.lost+one.doubled > 0 || one.corrupt {
			t.Errorf("%s", one)
		}
	}
}

func number(t *testing.T, name string, usual int) int {
	t.Helper()
	text := os.Getenv(name)
	if text == "" {
		return usual
	}
	n, err := strconv.Atoi(text)
	if err != nil {
		t.Fatalf("%s: %v", name, err)
	}
	return n
}

// smallDisk is a disk of so many MiB of its own, where this machine lets one be made.
func smallDisk(t *testing.T, mib int) (dir, why string) {
	t.Helper()
	dir = t.TempDir()
	if said, err := exec.Command("mount", "-t", "tmpfs", "-o", fmt.Sprintf("size=%dm", mib), "tmpfs", dir).CombinedOutput(); err != nil {
		return "", fmt.Sprintf("no disk can be made here (%s)", strings.TrimSpace(string(said)))
	}
	t.Cleanup(func() { _ = exec.Command("umount", "-l", dir).Run() }) // the folder goes with it
	return dir, ""
}

// caliper enters an instrument, and reports whether that was acknowledged.
func caliper(address, name string) (status int, err error) {
	res, err := http.Post(address+"/api/v1/instruments", "application/json", strings.NewReader(fmt.Sprintf(`{"name":%q,"resolution_mm":0.01,"reference_u_mm":0.01}`, name)))
	if err != nil {
		return 0, err
	}
	return res.StatusCode, res.Body.Close()
}

// A disk fills up while entries are made: what was acknowledged is there, what was not is not, and once there is room
// again everything goes on.
func fullDisk(t *testing.T) tally {
	t.Helper()
	out := tally{what: "a disk that fills up"}
	dir, why := smallDisk(t, 8)
	if out.notTried = why; why != "" {
		return out
	}
	data, ballast := filepath.Join(dir, "data"), filepath.Join(dir, "ballast")
	cmd, address := start(t, build(t), data)
	if err := os.WriteFile(ballast, make([]byte, 2<<20), 0o600); err != nil {
		t.Fatal(err)
	}
	there := map[string]bool{}
	refused := 0
	for i := 0; refused < 20 && i < 200_000; i++ {
		// Long names fill it sooner.
		name := fmt.Sprintf("%d %s", i, strings.Repeat("x", 80))
		status, err := caliper(address, name)
		if err != nil {
			t.Fatalf("a full disk ends the program: %v", err)
		}
		switch status {
		case http.StatusOK:
			there[name] = true
		case http.StatusInsufficientStorage:
			refused++
		default:
			t.Fatalf("a full disk is answered with %d", status)
		}
	}
	if refused == 0 {
		t.Error("the disk never filled up; the trial sees nothing")
	}
	if err := os.Remove(ballast); err != nil {
		t.Fatal(err)
	}
	for i := range 20 {
		name := fmt.Sprintf("after %d", i)
		if status, err := caliper(address, name); err != nil || status != http.StatusOK {
			t.Errorf("with room again: %d %v", status, err)
		}
		there[name] = true
	}
	_ = cmd.Process.Kill()
	_ = cmd.Wait() // it was killed
	_, address = start(t, build(t), data)
	out.held(t, address, there)
	out.checked(t, data)
	return out
}

// held counts what is on record of what was acknowledged.
func (s *tally) held(t *testing.T, address string, acknowledged map[string]bool) {
	t.Helper()
	var instruments []struct{ Name string }
	get(t, address+"/api/v1/instruments", &instruments)
	times := map[string]int{}
	for _, i := range instruments {
		times[i.Name]++
	}
	for name := range acknowledged {
		switch n := times[name]; {
		case n == 0:
			s.lost++
		case n > 1:
			s.doubled++
		}
	}
	if more := len(instruments) - len(acknowledged); more > 0 {
		t.Errorf("%d entries are there that were refused", more)
	}
	s.acknowledged = len(acknowledged)
}

// A disk that can only be read shows the record, and refuses changes with the reason.
func readOnlyDisk(t *testing.T) tally {
	t.Helper()
	out := tally{what: "a disk that can only be read"}
	dir, why := smallDisk(t, 16)
	if out.notTried = why; why != "" {
		return out
	}
	data := filepath.Join(dir, "data")
	cmd, address := start(t, build(t), data)
	there := map[string]bool{"one": true}
	if status, err := caliper(address, "one"); err != nil || status != http.StatusOK {
		t.Fatalf("%d %v", status, err)
	}
	if err := cmd.Process.Signal(os.Interrupt); err != nil {
		t.Fatal(err)
	}
	_ = cmd.Wait() // it ended as asked
	if said, err := exec.Command("mount", "-o", "remount,ro", dir).CombinedOutput(); err != nil {
		out.notTried = strings.TrimSpace(string(said))
		return out
	}
	_, address = start(t, build(t), data)
	if status, err := caliper(address, "two"); err != nil || status != http.StatusForbidden {
		t.Errorf("a change: %d %v", status, err)
	}
	out.held(t, address, there)
	return out
}

// Twenty devices send for some minutes over a network that loses one request in five, and one answer in five: each
// sends again what was not answered.
func devicesWithLosses(t *testing.T, minutes int) tally {
	t.Helper()
	const devices = 20
	out := tally{what: fmt.Sprintf("%d devices for %d min, every third word lost", devices, minutes)}
	data := t.TempDir()
	_, address := start(t, build(t), data)
	until := time.Now().Add(time.Duration(minutes) * time.Minute)
	var acknowledged atomic.Int64
	var all sync.WaitGroup
	for n := range devices {
		var made struct{ Token string }
		post(t, address+"/api/v1/devices", "application/json", fmt.Sprintf(`{"name":"Device %d","kind":"thermometer"}`, n), &made)
		chance := rand.New(rand.NewPCG(uint64(n), 7))
		all.Go(func() {
			for seq := 1; time.Now().Before(until); {
				if chance.Float64() < 0.2 {
					continue // lost on the way there
				}
				status, err := sendQuietly(address, made.Token, fmt.Sprintf("boot %d %d reading %d.5 c", seq, 1_790_000_000_000+int64(seq)*1000, 20+seq%5))
				if err != nil || status != http.StatusOK {
					t.Errorf("device %d, word %d: %d %v", n, seq, status, err)
					return
				}
				if chance.Float64() < 0.2 {
					continue // its answer is lost: the same once more
				}
				acknowledged.Add(1)
				seq++
			}
		})
	}
	all.Wait()
	var record struct {
		Messages []json.RawMessage `json:"device_messages"`
		Sessions []struct {
			Received int64
			LastSeq  int64 `json:"last_seq"`
		} `json:"device_sessions"`
	}
	get(t, address+"/api/v1/record", &record)
	out.acknowledged = int(acknowledged.Load())
	var last int64
	for _, s := range record.Sessions {
		last += s.LastSeq
		out.doubled += max(0, int(s.Received-s.LastSeq))
	}
	// The last word of a device may have arrived without its answer.
	out.lost = max(0, out.acknowledged-len(record.Messages))
	out.doubled += max(0, len(record.Messages)-int(last))
	if len(record.Sessions) != devices {
		t.Errorf("%d sessions of %d devices", len(record.Sessions), devices)
	}
	out.checked(t, data)
	return out
}
