<p>Silent Drawer</p>
