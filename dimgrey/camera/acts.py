"""What the bench answers when an act asks for its advice, and the pages that acts can be done from."""

from dimgrey.camera.bench import advice_for
from dimgrey.camera.views import bench_page, compare_page
from dimgrey.scenes.acts import answers
from dimgrey.scenes.pages import add_page
from dimgrey.scenes.situation import Situation

answers("advice", lambda scene: advice_for(Situation(scene)))
add_page("bench", "bench", bench_page)
add_page("compare", "compare", compare_page)
