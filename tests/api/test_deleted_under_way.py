"""Lists that are looked at while what they list is deleted and brought back."""

import threading

from .host import Host

LISTS = ("/trials", "/brews", "/charts", "/search?text=which", "/people", "/kit", "/recipes", "/palate")


def test_lists_are_of_one_moment(app, host):
    made = []
    for i in range(4):
        trial, _, runs = host.two_setups_brewed()
        host.taste(host.flight(trial["id"], runs, [host.person(f"A{i}"), host.person(f"B{i}")]), lambda mark, taster: 4 + mark)
        host.get(f"/trials/{trial['id']}/verdict")
        made.append(trial["id"])
    over, faults = threading.Event(), []

    def look():
        client = app.test_client()
        try:
            while not over.is_set():
                faults.extend((path, status) for path in LISTS if (status := client.get(f"/api/v1{path}").status_code) != 200)
        except Exception as error:  # what a use case lets through stands here, not in a thread nobody looks at
            faults.append(repr(error))

    lookers = [threading.Thread(target=look) for _ in range(3)]
    for looker in lookers:
        looker.start()
    me = Host(app.test_client())
    for _ in range(8):
        for trial in made:
            me.call("POST", f"/changes/{me.call('DELETE', f'/trials/{trial}')['change_id']}/undo")
    over.set()
    for looker in lookers:
        looker.join()
    assert faults == []
