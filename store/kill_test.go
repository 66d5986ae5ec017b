package store_test

import (
	"fmt"
	"math/rand/v2"
	"os"
	"os/exec"
	"path/filepath"
	"strconv"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"exactflask/store"
)

// killed is what a process of its own does until it is killed.
var killed = map[string]func(dir string) error{
	"restore": func(dir string) error {
		_, _, err := store.Restore(ctx, filepath.Join(dir, "new.db"), filepath.Join(dir, "at.db"))
		return err
	},
	"backup": func(dir string) error {
		_, err := store.Backup(ctx, filepath.Join(dir, "at.db"), filepath.Join(dir, "copy.db"))
		return err
	},
	"migration": func(dir string) error {
		s, err := store.Open(ctx, filepath.Join(dir, "at.db"))
		if err != nil {
			return err
		}
		return s.Close()
	},
}

// TestKilledHere is that process; in a run of the tests it does nothing.
func TestKilledHere(t *testing.T) {
	if does := os.Getenv("KILLED_WHILE"); does != "" {
		fmt.Println("begun")
		if err := killed[does](os.Getenv("KILLED_IN")); err != nil {
			t.Fatal(err)
		}
	}
}

// A process that restores, backs up or migrates is killed at a random moment. Always the old file or
// the new one stands there, whole, and opens; a backup is there whole or not at all. KILLS says how
// many of each.
func TestKilledAtAnyMoment(t *testing.T) {
	kills := 8
	if n, err := strconv.Atoi(os.Getenv("KILLS")); err == nil {
		kills = n
	}
	for does := range killed {
		t.Run(does, func(t *testing.T) {
			t.Parallel()
			draw := rand.New(rand.NewPCG(27, uint64(len(does))))
			ended := map[string]int{}
			var long time.Duration // that the work takes, found by doing it once
			for kill := range kills + 1 {
				dir := t.TempDir()
				at, fresh := filepath.Join(dir, "at.db"), filepath.Join(dir, "new.db")
				old, renewed := 40, -1
				switch does {
				case "migration":
					require.NoError(t, os.Rename(kept(t, 4), at))
					old = number(t, at, "SELECT count(*) FROM entries")
				default:
					served := filepath.Join(dir, "served.db")
					s := open(t, served)
					fill(t, s)
					for i := range old {
						require.NoError(t, add(s, "n1", entry(fmt.Sprint("old-", i))))
					}
					_, err := store.Backup(ctx, served, fresh) // of less than what is there then
					require.NoError(t, err)
					renewed = old
					for i := range 7 {
						require.NoError(t, add(s, "n1", entry(fmt.Sprint("later-", i))))
					}
					old += 7
					for _, end := range []string{"", "-wal", ".owner"} { // as after a power cut: the log is not written back
						text, err := os.ReadFile(served + end)
						require.NoError(t, err)
						require.NoError(t, os.WriteFile(at+end, text, 0o600))
					}
					require.NoError(t, s.Close())
				}
				c := exec.Command(os.Args[0], "-test.run=^TestKilledHere$", "-test.count=1")
				c.Env = append(os.Environ(), "KILLED_WHILE="+does, "KILLED_IN="+dir)
				said, err := c.StdoutPipe()
				require.NoError(t, err)
				require.NoError(t, c.Start())
				_, err = said.Read(make([]byte, 6)) // it has begun
				require.NoError(t, err)
				begun := time.Now()
				if kill == 0 {
					require.NoError(t, c.Wait())
					long = time.Since(begun)
					ended["done"]++
				} else {
					time.Sleep(time.Duration(draw.Float64() * 1.2 * float64(long)))
					_ = c.Process.Kill() // it may have ended
					_ = c.Wait()
				}
				if does == "backup" {
					if copied := filepath.Join(dir, "copy.db"); exists(copied) {
						v, err := store.Verify(ctx, copied)
						require.NoError(t, err)
						assert.True(t, v.OK() && v.Entries == old, "a backup is whole: %+v", v)
						ended["copied"]++
					}
				}
				require.FileExists(t, at, "kill %d: nothing stands there", kill)
				s, err := store.Open(ctx, at)
				require.NoError(t, err, "kill %d", kill)
				require.NoError(t, s.Close())
				v, err := store.Verify(ctx, at)
				require.NoError(t, err)
				assert.True(t, v.OK(), "kill %d: %+v", kill, v.Problems)
				assert.Contains(t, []int{old, renewed}, v.Entries, "kill %d", kill)
				ended[fmt.Sprint(v.Entries)]++
			}
			t.Logf("%s: killed %d times within %v: %v", does, kills, long, ended)
		})
	}
}

func exists(path string) bool {
	_, err := os.Stat(path)
	return err == nil
}

// Where only what a cut-off restoring left is there, nobody makes an empty file, and it is said what to do.
func TestNothingIsMadeBesideWhatIsHalfway(t *testing.T) {
	for _, left := range []string{".restoring", ".before-20261130-101112.000"} {
		path := filepath.Join(t.TempDir(), "a [1].db")
		require.NoError(t, os.WriteFile(path+left, []byte("what was there"), 0o600))
		_, err := store.Open(ctx, path)
		assert.ErrorContains(t, err, "store.halfway", left)
		assert.NoFileExists(t, path)
	}
	// Restoring goes on after itself; beside what was there before it asks first, but for that file.
	dir := t.TempDir()
	from, path := filepath.Join(dir, "from.db"), filepath.Join(dir, "to.db")
	s := open(t, from)
	fill(t, s)
	require.NoError(t, s.Close())
	require.NoError(t, os.WriteFile(path+".restoring", []byte("half"), 0o600))
	_, _, err := store.Restore(ctx, from, path)
	require.NoError(t, err)
	require.NoError(t, os.Rename(path, path+".before-20261130-101112.000"))
	_, _, err = store.Restore(ctx, from, path)
	require.ErrorContains(t, err, "store.halfway")
	t.Chdir(dir) // however its path is written
	_, _, err = store.Restore(ctx, "to.db.before-20261130-101112.000", path)
	require.NoError(t, err)
	assert.FileExists(t, path)
}
