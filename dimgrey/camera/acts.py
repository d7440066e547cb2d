"""The pages of this room that acts can be done from."""

from dimgrey.camera.views import bench_page, compare_page
from dimgrey.scenes.pages import add_page

add_page("bench", "bench", bench_page)
add_page("compare", "compare", compare_page)
